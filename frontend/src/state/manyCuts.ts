/** Backdrops of many photos that are being found, wherever the hand is meanwhile. */

import { create } from "zustand";

export interface ManyProgress {
  readonly done: number;
  readonly total: number;
  stop(): void;
}

interface ManyStore {
  /** By what they are found for: a group's id, or the shelf. */
  readonly running: Readonly<Record<string, ManyProgress>>;
  setRunning(whose: string, progress: ManyProgress | null): void;
}

export const useManyCuts = create<ManyStore>((set) => ({
  running: {},
  setRunning: (whose, progress) =>
    set(({ running: { [whose]: _, ...others } }) => ({
      running: progress ? { ...others, [whose]: progress } : others,
    })),
}));

/** Stop all that is under way. */
export function stopMany(): void {
  for (const { stop } of Object.values(useManyCuts.getState().running)) stop();
}
