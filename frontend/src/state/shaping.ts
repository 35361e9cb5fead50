/** How frames and the sheet are pulled. Proportions stay as they are chosen. */

import { create } from "zustand";
import type { Point } from "@/model/points";
import { FREELY } from "@/model/proportions";

interface ShapingStore {
  /** The proportion that a photo's frame keeps, by its name. */
  readonly frame: string;
  /** And that of the sheet. */
  readonly sheet: string;
  /** Whether a line is to be drawn along what should be level. */
  readonly isLevelling: boolean;
  /** Corner-like points beneath the open photo, on the canvas: corners come to rest there. */
  readonly rests: readonly Point[];
  /** A rough stroke over a blank place, on the canvas; null where none is looked for. */
  readonly blank: readonly Point[] | null;
  setFrame(proportion: string): void;
  setSheet(proportion: string): void;
  setLevelling(on: boolean): void;
  setRests(rests: readonly Point[]): void;
  setBlank(stroke: readonly Point[] | null): void;
}

export const useShaping = create<ShapingStore>((set) => ({
  frame: FREELY,
  sheet: FREELY,
  isLevelling: false,
  rests: [],
  blank: null,
  setFrame: (frame) => set({ frame }),
  setSheet: (sheet) => set({ sheet }),
  setLevelling: (isLevelling) => set({ isLevelling }),
  setRests: (rests) => set({ rests }),
  setBlank: (blank) => set({ blank }),
}));
