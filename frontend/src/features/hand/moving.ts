/** Moving, scaling and turning one layer as a whole. */

import type { Press, Pull, Touch } from "@/features/hand/drag";
import type { LayerGrip } from "@/features/hand/layerGrips";
import { othersOf, shiftedBounds, snapFor } from "@/features/hand/resting";
import { SLACK } from "@/features/hand/useHold";
import type { Composite, PlacedLayer, Placement } from "@/model/composite";
import { movedBy, scaledByCorner, turnedTowards } from "@/model/geometry";
import { intoPile, onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { boundsOf } from "@/model/snapping";
import { expectedComposite } from "@/state/project";

const TURN_STEP = 15;

/** Take a layer by a grip, or with null as a whole; what hardly moves stays where it is. */
export function layerPull(
  { composite, touch: { at: start } }: Press,
  placed: PlacedLayer,
  grip: LayerGrip | null,
): Pull {
  const layer = onCanvas(composite, placed);
  let others: ReturnType<typeof othersOf> | null = null;
  let hasMoved = false;

  /** Return how far from where the hand has it the layer comes to rest. */
  const restFor = (now: Composite, by: Point, touch: Touch): Point => {
    others ??= othersOf(now, [layer.id]);
    return snapFor(now, shiftedBounds(boundsOf(layer), by.x, by.y), others, touch);
  };

  const draggedTo = (now: Composite, touch: Touch): Placement => {
    const { at, shiftKey, altKey } = touch;
    if (grip === null) {
      const by = { x: at.x - start.x, y: at.y - start.y };
      const rest = restFor(now, by, touch);
      return movedBy(layer.placement, by.x + rest.x, by.y + rest.y);
    }
    if (grip === "turn") return turnedTowards(layer.placement, at, shiftKey ? TURN_STEP : null);
    const free = shiftKey && layer.kind !== "group";
    return scaledByCorner(layer, grip, at, { free, aboutMiddle: altKey });
  };

  return {
    edit: (touch) => {
      const now = expectedComposite();
      const { at, view } = touch;
      const distance = Math.hypot(at.x - start.x, at.y - start.y) * view.scale;
      if (!now || (!hasMoved && distance < SLACK)) return null;
      hasMoved = true;
      const placement = intoPile(now, layer.id, draggedTo(now, touch));
      return { kind: "place_layer", layer_id: layer.id, placement };
    },
  };
}
