/** Keeps the focus on the desk where what had it is gone: a layer, a fan, a field. */

import { useEffect } from "react";

/** So long whoever takes something away may say themselves what has the focus then. */
const AFTER_MS = 60;

export function useKeptFocus(): void {
  useEffect(() => {
    let last: Element | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const onFocus = (event: FocusEvent) => {
      last = event.target instanceof Element ? event.target : null;
    };
    const keep = () => {
      const isLost = document.activeElement === document.body && last && !last.isConnected;
      if (!isLost) return;
      document.querySelector<HTMLElement>("[data-stage]")?.focus({ preventScroll: true });
    };
    const observer = new MutationObserver(() => {
      if (!last || last.isConnected) return;
      clearTimeout(timer);
      timer = setTimeout(keep, AFTER_MS);
    });
    window.addEventListener("focusin", onFocus);
    observer.observe(document.body, { childList: true, subtree: true });
    return () => {
      clearTimeout(timer);
      observer.disconnect();
      window.removeEventListener("focusin", onFocus);
    };
  }, []);
}
