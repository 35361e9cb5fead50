/** Aids for the eye that judges a place: with and without the open layer. None is an edit. */

import { create } from "zustand";

/** Without it now and then, or on one side of a line that is dragged. */
export type JudgingAid = "blink" | "divider";

interface JudgingStore {
  readonly aid: JudgingAid | null;
  /** Whether the open layer is left out for as long as a key is held. */
  readonly isHeldOut: boolean;
  /** Whether it is seen in the printer's colours for as long as a key is held. */
  readonly isPrinted: boolean;
  /** Whether a blink leaves it out now. */
  readonly isBlinkedOut: boolean;
  /** Where the divider stands, as a share of the stage's width, 0..100. */
  readonly divider: number;
  setAid(aid: JudgingAid | null): void;
  holdOut(isHeldOut: boolean): void;
  seePrinted(isPrinted: boolean): void;
  blink(): void;
  setDivider(divider: number): void;
}

export const useJudging = create<JudgingStore>((set) => ({
  aid: null,
  isHeldOut: false,
  isPrinted: false,
  isBlinkedOut: false,
  divider: 50,
  setAid: (aid) => set({ aid, isBlinkedOut: false }),
  holdOut: (isHeldOut) => set({ isHeldOut }),
  seePrinted: (isPrinted) => set({ isPrinted }),
  blink: () => set(({ isBlinkedOut }) => ({ isBlinkedOut: !isBlinkedOut })),
  setDivider: (divider) => set({ divider }),
}));
