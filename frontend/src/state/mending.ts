/** The brush that mends, and what it goes over now. */

import { create } from "zustand";
import type { Point } from "@/model/points";

interface MendingStore {
  /** Pixels of the canvas. */
  readonly size: number;
  /** What is being gone over, on the canvas. */
  readonly trace: readonly Point[];
  set(changes: Partial<Pick<MendingStore, "size" | "trace">>): void;
}

export const useMending = create<MendingStore>((set) => ({
  size: 18,
  trace: [],
  set: (changes) => set(changes),
}));
