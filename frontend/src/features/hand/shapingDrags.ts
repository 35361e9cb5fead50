/** Dragging what shapes a photo: its frame, its four corners, the points of its bend. */

import type { Pull, Touch } from "@/features/hand/drag";
import type { Composite, Edit, FlatLayer, PhotoLayer, Placement } from "@/model/composite";
import { isCropGrip, pulledFrame, shiftedInside } from "@/model/cropping";
import { canvasToPlane } from "@/model/geometry";
import { intoPile, onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { proportionOf } from "@/model/proportions";
import { bentTo, flatBend, frameSize, nearestRest, unwarped } from "@/model/shaping";
import { useHelping } from "@/state/helping";
import { useShaping } from "@/state/shaping";
import { pulledCorner } from "@/work/pulling";

const PULL = "pull-";
const GRID = "grid-";

/** Pixels of the screen within which a corner comes to rest on a point. */
const DRAWN_WITHIN = 9;

/** Let a corner come to rest on a corner-like point of what lies beneath, and show that. */
function atRest({ at, view }: Touch): Point {
  const rest = nearestRest(useShaping.getState().rests, at, DRAWN_WITHIN / view.scale);
  useHelping.getState().setSpot(rest);
  return rest ?? at;
}

/** Return what dragging a grip of a photo's shape does; null for other grips. */
export function shapingPull(composite: Composite, open: FlatLayer, grip: unknown): Pull | null {
  const layer = onCanvas(composite, open);
  const dragged = (move: (touch: Touch) => Placement): Pull => ({
    edit: (touch) => placed(composite, open, move(touch)),
  });
  if (isCropGrip(grip) && layer.kind === "photo") {
    const chosen = proportionOf(useShaping.getState().frame, layer, composite.canvas);
    const now = frameSize(layer.placement, layer);
    const kept = now.width / now.height;
    return dragged(({ at, shiftKey }) =>
      pulledFrame(layer, grip, at, chosen ?? (shiftKey ? kept : null)),
    );
  }
  if (typeof grip !== "string") return null;
  if (grip.startsWith(PULL)) {
    const place = Number(grip.slice(PULL.length));
    return dragged((touch) => pulledCorner(layer, place, touch.altKey ? touch.at : atRest(touch)));
  }
  if (!grip.startsWith(GRID)) return null;
  const place = Number(grip.slice(GRID.length));
  return dragged(({ at }) => pulledGrid(layer, place, at));
}

/** Return what dragging inside a photo's frame does: the photo moves in it. */
export function insidePull(composite: Composite, open: PhotoLayer, start: Point): Pull {
  const layer = onCanvas(composite, open);
  return { edit: ({ at }) => placed(composite, open, shiftedInside(layer, start, at)) };
}

function pulledGrid(layer: FlatLayer, place: number, to: Point): Placement {
  const { placement } = layer;
  const bend = placement.bend ?? flatBend(3, 3);
  const straight = { ...placement, bend: null };
  const at = unwarped(straight, canvasToPlane(layer, to));
  return { ...placement, bend: bentTo(bend, place, at) };
}

function placed(composite: Composite, { id }: FlatLayer, placement: Placement): Edit {
  return {
    kind: "place_layer",
    layer_id: id,
    placement: intoPile(composite, id, placement),
  };
}
