/** Pointing at the same places in two photos that are lined up. */

import type { Press } from "@/features/hand/drag";
import { layerById } from "@/model/composite";
import { toSource } from "@/model/geometry";
import { onCanvas } from "@/model/nesting";
import { halfOf, MOST_PAIRS, useMatching } from "@/state/matching";

/** Put a point where the hand presses: in the one photo, then in the other. */
export function pinning({ composite, grip, touch }: Press): null | undefined {
  const { layers, pairs, set } = useMatching.getState();
  if (!layers || grip !== null) return undefined;
  const half = halfOf(pairs);
  const layer = layerById(composite, half ? layers.fixed : layers.moving);
  if (layer?.kind !== "photo") return undefined;
  const point = toSource(onCanvas(composite, layer), touch.at);
  if (half) set(pairs.map((pair) => (pair === half ? { ...pair, fixed: point } : pair)));
  else if (pairs.length < MOST_PAIRS) set([...pairs, { moving: point, fixed: null }]);
  return null;
}
