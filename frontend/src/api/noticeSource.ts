/** The stream of notices itself, opened again whenever it ends. */

import type { Notice } from "@/api/types";

export type Told =
  | { readonly kind: "notice"; readonly notice: Notice }
  | { readonly kind: "connection"; readonly fine: boolean };

const RETRY_MS = 2000;

export class NoticeSource {
  readonly #tell: (told: Told) => void;
  #source: EventSource | null = null;
  #retry: ReturnType<typeof setTimeout> | undefined;

  constructor(tell: (told: Told) => void) {
    this.#tell = tell;
    this.#open();
  }

  close(): void {
    clearTimeout(this.#retry);
    this.#source?.close();
  }

  #open(): void {
    const source = new EventSource("/api/events");
    this.#source = source;
    source.onopen = () => this.#tell({ kind: "connection", fine: true });
    source.onmessage = (event: MessageEvent<string>) =>
      this.#tell({ kind: "notice", notice: JSON.parse(event.data) as Notice });
    source.onerror = () => {
      this.#tell({ kind: "connection", fine: false });
      // After a refusal the browser does not try again by itself.
      if (source.readyState === EventSource.CLOSED) {
        this.#retry = setTimeout(() => this.#open(), RETRY_MS);
      }
    };
  }
}
