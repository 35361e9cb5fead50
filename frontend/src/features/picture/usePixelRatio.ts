/** How many pixels of the screen lie on one of the page's: another on another screen. */

import { useSyncExternalStore } from "react";

export function usePixelRatio(): number {
  return useSyncExternalStore(follow, () => window.devicePixelRatio);
}

/** Hear when the window comes to lie on another screen, or the page is enlarged. */
function follow(tell: () => void): () => void {
  let query: MediaQueryList | null = null;
  const listen = () => {
    query?.removeEventListener("change", onChange);
    // It asks for the ratio of now, and changes once: then for the next one.
    query = window.matchMedia(`(resolution: ${window.devicePixelRatio}dppx)`);
    query.addEventListener("change", onChange);
  };
  const onChange = () => {
    listen();
    tell();
  };
  listen();
  return () => query?.removeEventListener("change", onChange);
}
