/** What is drawn over the stage for the hand alone: where things snap, a ring being drawn. */

import { create } from "zustand";
import type { Point, Size } from "@/model/points";
import type { Snap } from "@/model/snapping";

interface Frame extends Size {
  readonly left: number;
  readonly top: number;
}

interface HelpingStore {
  readonly snap: Snap | null;
  /** Where a corner has come to rest. */
  readonly spot: Point | null;
  readonly ring: readonly Point[] | null;
  /** A line that is being drawn along what should be level. */
  readonly level: readonly Point[] | null;
  /** The sheet as it will be, in its present pixels. */
  readonly frame: Frame | null;
  /** Draw nothing more: what was begun is over. */
  clear(): void;
  setSnap(snap: Snap | null): void;
  setSpot(spot: Point | null): void;
  setRing(ring: readonly Point[] | null): void;
  setFrame(frame: Frame | null): void;
  setLevel(level: readonly Point[] | null): void;
}

const NOTHING = { snap: null, spot: null, ring: null, level: null, frame: null };

export const useHelping = create<HelpingStore>((set) => ({
  ...NOTHING,
  clear: () => set(NOTHING),
  setSnap: (snap) => set({ snap }),
  setSpot: (spot) => set({ spot }),
  setRing: (ring) => set({ ring }),
  setFrame: (frame) => set({ frame }),
  setLevel: (level) => set({ level }),
}));
