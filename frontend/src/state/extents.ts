/** Where layers show on the canvas, as far as it was asked for. */

import { create } from "zustand";
import type { Box } from "@/model/effects";

interface ExtentStore {
  /** Of the layer that was asked for last. */
  readonly layer: string | null;
  readonly extent: Box | null;
  set(layer: string, extent: Box | null): void;
}

export const useExtents = create<ExtentStore>((set) => ({
  layer: null,
  extent: null,
  set: (layer, extent) => set({ layer, extent }),
}));

/** Return where a layer shows, if that is known. */
export function extentOf(layer: string): Box | null {
  const known = useExtents.getState();
  return known.layer === layer ? known.extent : null;
}
