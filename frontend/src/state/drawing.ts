/** The outline that is being drawn: its corners so far, on the canvas. */

import { create } from "zustand";
import type { Point } from "@/model/points";

interface Drawing {
  readonly corners: readonly Point[];
  setCorners(corners: readonly Point[]): void;
}

export const useDrawing = create<Drawing>((set) => ({
  corners: [],
  setCorners: (corners) => set({ corners }),
}));
