/** A value once it rests. */

import { useEffect, useState } from "react";

/** Return a value once it has not changed for a while; the first one at once. */
export function useSettled<T>(value: T, afterMs: number): T {
  const [settled, settle] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => settle(value), afterMs);
    return () => clearTimeout(timer);
  }, [value, afterMs]);
  return settled;
}
