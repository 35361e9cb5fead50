/** The fonts on offer, for those that cannot wait for them. */

import { create } from "zustand";
import type { Font } from "@/model/fonts";

interface Fonts {
  readonly known: readonly Font[];
  know(known: readonly Font[]): void;
}

export const useKnownFonts = create<Fonts>((set) => ({
  known: [],
  know: (known) => set({ known }),
}));
