/** How frames are pulled: in which proportion. It stays as it is chosen. */

import { create } from "zustand";

interface ShapingStore {
  /** Width by height that a frame keeps; null where it is free. */
  readonly ratio: number | null;
  /** Whether a line is to be drawn along what should be level. */
  readonly isLevelling: boolean;
  setRatio(ratio: number | null): void;
  setLevelling(on: boolean): void;
}

export const useShaping = create<ShapingStore>((set) => ({
  ratio: null,
  isLevelling: false,
  setRatio: (ratio) => set({ ratio }),
  setLevelling: (isLevelling) => set({ isLevelling }),
}));
