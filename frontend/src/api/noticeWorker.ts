/** Shared by all windows of a browser: hears the service, and tells each of them. */

import { NoticeSource, type Told } from "@/api/noticeSource";

interface SharedScope {
  onconnect: ((event: MessageEvent) => void) | null;
}

const windows = new Set<MessagePort>();
let source: NoticeSource | null = null;
let connection: Told = { kind: "connection", fine: true };

function tellAll(told: Told): void {
  if (told.kind === "connection") connection = told;
  for (const port of windows) port.postMessage(told);
}

(globalThis as unknown as SharedScope).onconnect = (event) => {
  const port = event.ports[0];
  if (!port) return;
  windows.add(port);
  port.onmessage = () => windows.delete(port);
  // A window that has just come may have missed anything.
  if (source) port.postMessage({ kind: "notice", notice: { kind: "catch_up" } } satisfies Told);
  port.postMessage(connection);
  source ??= new NoticeSource(tellAll);
};
