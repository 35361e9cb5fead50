/** Pointing at the same places in two photos that are lined up. */

import { type Composite, layerById } from "@/model/composite";
import { toSource } from "@/model/geometry";
import { onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { halfOf, MOST_PAIRS, useMatching } from "@/state/matching";

/** Put a point where the hand presses: in the one photo, then in the other. */
export function pressMatch(composite: Composite, at: Point): boolean {
  const { layers, pairs, set } = useMatching.getState();
  if (!layers) return false;
  const half = halfOf(pairs);
  const layer = layerById(composite, half ? layers.fixed : layers.moving);
  if (layer?.kind !== "photo") return false;
  const point = toSource(onCanvas(composite, layer), at);
  if (half) set(pairs.map((pair) => (pair === half ? { ...pair, fixed: point } : pair)));
  else if (pairs.length < MOST_PAIRS) set([...pairs, { moving: point, fixed: null }]);
  return true;
}
