/** Dragging what shapes a photo: its frame, its four corners, the points of its bend. */

import type { OwnDrag } from "@/features/hand/ownDrags";
import type { Composite, Edit, PhotoLayer, Placement } from "@/model/composite";
import { type CropGrip, isCropGrip, pulledFrame, shiftedInside } from "@/model/cropping";
import { canvasToPlane } from "@/model/geometry";
import { intoPile, onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { proportionOf } from "@/model/proportions";
import { bentTo, flatBend, frameSize, nearestRest, unwarped } from "@/model/shaping";
import { useHelping } from "@/state/helping";
import { useShaping } from "@/state/shaping";
import { pulledCorner } from "@/work/pulling";
import { viewInForce } from "@/work/zooming";

export type ShapingGrip = CropGrip | `pull-${number}` | `grid-${number}`;

const PULL = "pull-";
const GRID = "grid-";

interface Keys {
  readonly shiftKey: boolean;
  readonly altKey: boolean;
}

/** Pixels of the screen within which a corner comes to rest on a point. */
const DRAWN_WITHIN = 9;

/** Let a corner come to rest on a corner-like point of what lies beneath, and show that. */
function atRest(to: Point): Point {
  const view = viewInForce();
  const rest = view
    ? nearestRest(useShaping.getState().rests, to, DRAWN_WITHIN / view.scale)
    : null;
  useHelping.getState().setSpot(rest);
  return rest ?? to;
}

/** Return what dragging a grip of a photo's shape does; null for other grips. */
export function shapingDrag(composite: Composite, open: PhotoLayer, grip: unknown): OwnDrag | null {
  const layer = onCanvas(composite, open);
  const dragged = (move: (to: Point, keys: Keys) => Placement): OwnDrag => ({
    kind: "own",
    edit: (to, keys) => placed(composite, open, move(to, keys)),
  });
  if (isCropGrip(grip)) {
    const chosen = proportionOf(useShaping.getState().frame, layer, composite.canvas);
    const now = frameSize(layer.placement, layer);
    const kept = now.width / now.height;
    return dragged((to, { shiftKey }) =>
      pulledFrame(layer, grip, to, chosen ?? (shiftKey ? kept : null)),
    );
  }
  if (typeof grip !== "string") return null;
  if (grip.startsWith(PULL)) {
    const place = Number(grip.slice(PULL.length));
    return dragged((to, { altKey }) => pulledCorner(layer, place, altKey ? to : atRest(to)));
  }
  if (!grip.startsWith(GRID)) return null;
  const place = Number(grip.slice(GRID.length));
  return dragged((to) => pulledGrid(layer, place, to));
}

/** Return what dragging inside a photo's frame does: the photo moves in it. */
export function insideDrag(composite: Composite, open: PhotoLayer, start: Point): OwnDrag {
  const layer = onCanvas(composite, open);
  return {
    kind: "own",
    edit: (to) => placed(composite, open, shiftedInside(layer, start, to)),
  };
}

function pulledGrid(layer: PhotoLayer, place: number, to: Point): Placement {
  const { placement } = layer;
  const bend = placement.bend ?? flatBend(3, 3);
  const straight = { ...placement, bend: null };
  const at = unwarped(straight, canvasToPlane(layer, to));
  return { ...placement, bend: bentTo(bend, place, at) };
}

function placed(composite: Composite, { id }: PhotoLayer, placement: Placement): Edit {
  return {
    kind: "place_layer",
    layer_id: id,
    placement: intoPile(composite, id, placement),
  };
}
