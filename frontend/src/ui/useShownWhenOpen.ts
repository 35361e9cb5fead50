/** Keeps what is open in sight. */

import { type RefObject, useEffect, useRef } from "react";

/** Scroll the element into sight whenever `open` becomes another true value. */
export function useShownWhenOpen<E extends Element>(open: string | boolean): RefObject<E | null> {
  const element = useRef<E>(null);
  useEffect(() => {
    if (open) element.current?.scrollIntoView({ block: "nearest" });
  }, [open]);
  return element;
}
