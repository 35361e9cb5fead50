/** Aids for the eye that judges a place: with and without the open layer. None is an edit. */

import { create } from "zustand";

/** Without it now and then, or on one side of a line that is dragged. */
export type JudgingAid = "blink" | "divider";

interface JudgingStore {
  readonly aid: JudgingAid | null;
  /** Whether the open layer is left out of what the stage shows now. */
  readonly isOut: boolean;
  /** Where the divider stands, as a share of the stage's width, 0..100. */
  readonly divider: number;
  setAid(aid: JudgingAid | null): void;
  setOut(isOut: boolean): void;
  setDivider(divider: number): void;
}

export const useJudging = create<JudgingStore>((set) => ({
  aid: null,
  isOut: false,
  divider: 50,
  setAid: (aid) => set({ aid, isOut: false }),
  setOut: (isOut) => set({ isOut }),
  setDivider: (divider) => set({ divider }),
}));
