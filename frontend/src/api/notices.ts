/** What the service tells of its own accord. */

import type { Notice } from "@/api/types";

/** Listen to all notices; returns what ends it. The browser reconnects by itself. */
export function listen(
  onNotice: (notice: Notice) => void,
  onConnection: (fine: boolean) => void,
): () => void {
  const source = new EventSource("/api/events");
  source.onopen = () => onConnection(true);
  source.onerror = () => onConnection(false);
  source.onmessage = (event: MessageEvent<string>) => onNotice(JSON.parse(event.data) as Notice);
  return () => source.close();
}
