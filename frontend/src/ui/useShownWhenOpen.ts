/** Keeps what is open in sight. */

import { type RefObject, useEffect, useRef } from "react";

/** Where an open one is higher than its room, what is unfolded in it counts more. */
const UNFOLDED = "[data-expanded]";

/** Scroll the element into sight whenever `open` becomes another true value. */
export function useShownWhenOpen<E extends Element>(open: string | boolean): RefObject<E | null> {
  const element = useRef<E>(null);
  useEffect(() => {
    if (!open) return;
    element.current?.scrollIntoView({ block: "nearest" });
    // What unfolds has its whole height once its own effects have run.
    const frame = requestAnimationFrame(() =>
      element.current?.querySelector(UNFOLDED)?.scrollIntoView({ block: "nearest" }),
    );
    return () => cancelAnimationFrame(frame);
  }, [open]);
  return element;
}
