/** Pairs that are pointed at for a match: this should look like that. */

import { create } from "zustand";
import type { Pair } from "@/model/matches";
import type { Point } from "@/model/points";

interface PairingStore {
  /** Whether the next press on the picture points at a spot. */
  readonly isOn: boolean;
  readonly pairs: readonly Pair[];
  /** The first spot of a pair whose second is still to come. */
  readonly first: Point | null;
  set(changes: Partial<Pick<PairingStore, "isOn" | "pairs" | "first">>): void;
}

const FRESH = { isOn: false, pairs: [], first: null };

export const usePairing = create<PairingStore>((set) => ({
  ...FRESH,
  set: (changes) => set(changes),
}));

/** Point at nothing any longer, and forget what was pointed at. */
export function endPairing(): void {
  usePairing.getState().set(FRESH);
}
