/** Points that are matched by hand in two photos, to line one up with the other. */

import { ALIGN_REQUEST } from "@generated/limits";
import { create } from "zustand";
import type { Point } from "@/model/points";

export const MOST_PAIRS = ALIGN_REQUEST.pairs.maxItems;

export interface MatchedPair {
  /** In the own pixels of the photo that is moved. */
  readonly moving: Point;
  /** In those of the one that stays; null where that is still to be pointed at. */
  readonly fixed: Point | null;
}

interface MatchingStore {
  /** Ids of both layers; null where nothing is matched. */
  readonly layers: { readonly moving: string; readonly fixed: string } | null;
  readonly pairs: readonly MatchedPair[];
  begin(layers: { moving: string; fixed: string }): void;
  set(pairs: readonly MatchedPair[]): void;
  end(): void;
}

export const useMatching = create<MatchingStore>((set) => ({
  layers: null,
  pairs: [],
  begin: (layers) => set({ layers, pairs: [] }),
  set: (pairs) => set({ pairs }),
  end: () => set({ layers: null, pairs: [] }),
}));

/** Return the pair whose second point is still to be pointed at. */
export function halfOf(pairs: readonly MatchedPair[]): MatchedPair | undefined {
  return pairs.find(({ fixed }) => fixed === null);
}
