/** Placements within groups, seen from the canvas, and the other way round. */

import {
  type Composite,
  type Gradient,
  type GradientLayer,
  type GroupLayer,
  groupsAround,
  type PlacedLayer,
  type Placement,
} from "@/model/composite";
import { clampedScale, type Point, toCanvas, toSource, wrappedTurn } from "@/model/geometry";

/** Return a layer as it would have to lie on the canvas itself to show where it does. */
export function onCanvas<L extends PlacedLayer>(composite: Composite, layer: L): L {
  const placement = groupsAround(composite, layer.id).reduceRight(placedOutside, layer.placement);
  return { ...layer, placement };
}

/** Return the placement in a layer's own group that shows at a placement on the canvas. */
export function intoPile(composite: Composite, id: string, placement: Placement): Placement {
  return groupsAround(composite, id).reduce(placedInside, placement);
}

/** Return a gradient as it lies on the canvas. */
export function gradientOnCanvas(composite: Composite, layer: GradientLayer): Gradient {
  return groupsAround(composite, layer.id).reduceRight(
    (gradient, group) =>
      movedGradient(gradient, (at) => toCanvas(group, at), group.placement.scale_x),
    layer.gradient,
  );
}

/** Return a gradient on the canvas as it lies in its layer's own group. */
export function gradientIntoPile(composite: Composite, id: string, gradient: Gradient): Gradient {
  return groupsAround(composite, id).reduce(
    (moved, group) =>
      movedGradient(moved, (at) => toSource(group, at), 1 / group.placement.scale_x),
    gradient,
  );
}

function placedOutside(inner: Placement, group: GroupLayer): Placement {
  const place = group.placement;
  return changed(
    inner,
    place,
    toCanvas(group, inner),
    place.scale_x,
    place.turn + sense(place) * inner.turn,
  );
}

function placedInside(outer: Placement, group: GroupLayer): Placement {
  const place = group.placement;
  return changed(
    outer,
    place,
    toSource(group, outer),
    1 / place.scale_x,
    sense(place) * (outer.turn - place.turn),
  );
}

/** In a mirrored group turns run the other way. */
function sense(place: Placement): number {
  return place.flipped === place.upended ? 1 : -1;
}

function changed(
  placement: Placement,
  group: Placement,
  at: Point,
  scale: number,
  turn: number,
): Placement {
  return {
    x: at.x,
    y: at.y,
    scale_x: clampedScale(placement.scale_x * scale),
    scale_y: clampedScale(placement.scale_y * scale),
    turn: wrappedTurn(turn),
    flipped: placement.flipped !== group.flipped,
    upended: placement.upended !== group.upended,
  };
}

function movedGradient(gradient: Gradient, move: (at: Point) => Point, scale: number): Gradient {
  const angle = (gradient.angle * Math.PI) / 180;
  const middle = move(gradient);
  const ahead = move({ x: gradient.x + Math.cos(angle), y: gradient.y + Math.sin(angle) });
  return {
    ...gradient,
    x: middle.x,
    y: middle.y,
    length: Math.max(1, gradient.length * scale),
    angle: (Math.atan2(ahead.y - middle.y, ahead.x - middle.x) * 180) / Math.PI,
  };
}
