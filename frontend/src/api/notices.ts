/** What the service tells of its own accord. */

import type { Told } from "@/api/noticeSource";
import { NoticeSource } from "@/api/noticeSource";
import type { Notice } from "@/api/types";

/**
 * Listen to all notices; returns what ends it.
 *
 * All windows of a browser share one stream, kept by a worker that they share: a browser
 * opens only a few connections to one place, and each stream takes one for good.
 */
export function listen(
  onNotice: (notice: Notice) => void,
  onConnection: (fine: boolean) => void,
): () => void {
  const hear = (told: Told) => {
    if (told.kind === "connection") onConnection(told.fine);
    else onNotice(told.notice);
  };
  if (typeof SharedWorker === "undefined") {
    const source = new NoticeSource(hear);
    return () => source.close();
  }
  return listenThroughWorker(hear);
}

function listenThroughWorker(hear: (told: Told) => void): () => void {
  let port: MessagePort | null = null;
  const begin = () => {
    const worker = new SharedWorker(new URL("./noticeWorker.ts", import.meta.url), {
      type: "module",
      name: "glyphaneme notices",
    });
    port = worker.port;
    port.onmessage = (event: MessageEvent<Told>) => hear(event.data);
  };
  const leave = () => {
    port?.postMessage("bye");
    port?.close();
    port = null;
  };
  // A page that the browser keeps for going back to hears nothing in between.
  const comeBack = () => {
    if (port === null) begin();
  };
  begin();
  window.addEventListener("pagehide", leave);
  window.addEventListener("pageshow", comeBack);
  return () => {
    window.removeEventListener("pagehide", leave);
    window.removeEventListener("pageshow", comeBack);
    leave();
  };
}
