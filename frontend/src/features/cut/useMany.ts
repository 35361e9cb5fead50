/** Finding the backdrops of many photos, one after the other; it can be stopped. */

import { useEffect, useRef, useState } from "react";
import { findMatte } from "@/features/cut/findMatte";
import { BY_ITSELF, type FoundMatte } from "@/model/mattes";

export interface Many<T> {
  /** null while nothing is under way. */
  readonly progress: { readonly done: number; readonly total: number } | null;
  begin(wanted: readonly T[]): void;
  stop(): void;
}

interface Wanted {
  readonly picture: string;
}

/**
 * Return what finds many backdrops. `onFound` hears of each, `onEnd` how many have none;
 * what was found before counts at once.
 */
export function useMany<T extends Wanted>(
  prepared: boolean,
  onFound: (wanted: T, found: FoundMatte) => void,
  onEnd: (missed: number, total: number) => void,
): Many<T> {
  const [progress, setProgress] = useState<Many<T>["progress"]>(null);
  const stopping = useRef<AbortController | null>(null);
  const stop = () => {
    stopping.current?.abort();
    stopping.current = null;
    setProgress(null);
  };
  useEffect(() => () => stopping.current?.abort(), []);
  const begin = async (wanted: readonly T[]) => {
    stop();
    const mine = new AbortController();
    stopping.current = mine;
    const total = wanted.length;
    let missed = 0;
    for (const [done, one] of wanted.entries()) {
      setProgress({ done, total });
      const asked = { picture: one.picture, request: BY_ITSELF, prepared };
      const found = await findMatte(asked, mine.signal).catch(() => null);
      if (mine.signal.aborted) return;
      if (found) onFound(one, found);
      else missed += 1;
    }
    stop();
    onEnd(missed, total);
  };
  return { progress, begin: (wanted) => void begin(wanted), stop };
}
