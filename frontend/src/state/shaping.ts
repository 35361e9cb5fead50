/** How frames and the sheet are pulled. Proportions stay as they are chosen. */

import { create } from "zustand";
import { FREELY } from "@/model/proportions";

interface ShapingStore {
  /** The proportion that a photo's frame keeps, by its name. */
  readonly frame: string;
  /** And that of the sheet. */
  readonly sheet: string;
  /** Whether a line is to be drawn along what should be level. */
  readonly isLevelling: boolean;
  setFrame(proportion: string): void;
  setSheet(proportion: string): void;
  setLevelling(on: boolean): void;
}

export const useShaping = create<ShapingStore>((set) => ({
  frame: FREELY,
  sheet: FREELY,
  isLevelling: false,
  setFrame: (frame) => set({ frame }),
  setSheet: (sheet) => set({ sheet }),
  setLevelling: (isLevelling) => set({ isLevelling }),
}));
