/** The brush in the hand: how wide, how soft, how strong, and what it does. */

import { STROKE } from "@generated/limits";
import { create } from "zustand";

interface Brush {
  /** Pixels of the canvas. */
  readonly size: number;
  /** The share of the radius that falls off, 0..1. */
  readonly softness: number;
  readonly strength: number;
  readonly shows: boolean;
  set(changes: Partial<Pick<Brush, "size" | "softness" | "strength" | "shows">>): void;
}

const FIRST = { size: 120, softness: 0.6, strength: 1, shows: false };
const STEP = 1.15;

export const useBrush = create<Brush>((set) => ({
  ...FIRST,
  set: (changes) => set(changes),
}));

/** Make the brush wider or narrower by steps; a fraction of a step counts too. */
export function resizeBrush(steps: number): void {
  const { size, set } = useBrush.getState();
  set({ size: resized(size, steps) });
}

/** Return a brush's size made larger or smaller by steps. */
export function resized(size: number, steps: number): number {
  const wanted = size * STEP ** steps;
  const whole = steps > 0 ? Math.ceil(wanted) : Math.floor(wanted);
  return Math.min(Math.max(whole, STROKE.size.minimum), STROKE.size.maximum);
}

/** Let the brush do the other of the two. */
export function swapBrush(): void {
  const { shows, set } = useBrush.getState();
  set({ shows: !shows });
}
