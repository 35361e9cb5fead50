/** Placements within groups, seen from the canvas, and the other way round. */

import { PLACEMENT } from "@generated/limits";
import {
  type Composite,
  type Gradient,
  type GradientLayer,
  type GroupLayer,
  groupsAround,
  isPlaced,
  type Layer,
  type Mask,
  type MendedLayer,
  type PlacedLayer,
  type Placement,
} from "@/model/composite";
import { clampedScale, toCanvas, toSource, wrappedTurn } from "@/model/geometry";
import type { Point } from "@/model/points";
import { scaledEffect, scaledTone } from "@/model/scaling";

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

/** All that everything lies in, moved, scaled and turned about the corner positions count from. */
export interface Carrying {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
  readonly turn: number;
}

const UPRIGHT = { flipped: false, upended: false };

function carriedPoint(at: Point, { x, y, scale, turn }: Carrying): Point {
  const angle = (turn * Math.PI) / 180;
  const [cosine, sine] = [scale * Math.cos(angle), scale * Math.sin(angle)];
  return { x: cosine * at.x - sine * at.y + x, y: sine * at.x + cosine * at.y + y };
}

/** Return a placement carried along. */
export function carriedPlacement(placement: Placement, by: Carrying): Placement {
  const at = keptPoint(carriedPoint(placement, by));
  return changed(placement, UPRIGHT, at, by.scale, by.turn + placement.turn);
}

/** Return a function that carries layers along with all that they lie in. */
export function carriedBy({ x, y, scale, turn }: Carrying): (layer: Layer) => Layer {
  const move = (at: Point) => carriedPoint(at, { x, y, scale, turn });
  return (layer) => {
    const effects = layer.effects.map((effect) => scaledEffect(effect, scale));
    const shown = { ...layer, effects, ...carriedBeside(layer, move, scale, turn) };
    if (isPlaced(shown)) {
      return { ...shown, placement: carriedPlacement(shown.placement, { x, y, scale, turn }) };
    }
    if (shown.kind === "toning") {
      return { ...shown, tones: shown.tones.map((tone) => scaledTone(tone, scale)) };
    }
    if (shown.kind === "mending") {
      return { ...shown, mends: shown.mends.map((mend) => carriedMend(mend, move, scale)) };
    }
    if (shown.kind !== "gradient") return shown;
    const gradient = movedGradient(shown.gradient, move, scale);
    return { ...shown, gradient: { ...gradient, ...keptPoint(gradient) } };
  };
}

type Mend = MendedLayer["mends"][number];

/** What grows beyond its limits the service holds within them. */
function carriedMend(mend: Mend, move: (at: Point) => Point, scale: number): Mend {
  const points = mend.points.map(([x, y]): [number, number] => {
    const at = move({ x, y });
    return [at.x, at.y];
  });
  return { ...mend, points, size: mend.size * scale };
}

/** What does not move with a layer moves with what that lies in. */
function carriedBeside(
  layer: Layer,
  move: (at: Point) => Point,
  scale: number,
  turn: number,
): Pick<Layer, "mask" | "fades"> {
  const stays = (linked: boolean) => linked && isPlaced(layer);
  const fades = layer.fades.map((fade) =>
    stays(fade.linked)
      ? fade
      : {
          ...fade,
          ...keptPoint(move(fade)),
          length: Math.max(1, fade.length * scale),
          angle: wrappedTurn(fade.angle + turn),
        },
  );
  const { mask } = layer;
  if (!mask || stays(mask.linked)) return { mask, fades };
  return {
    mask: { ...mask, to_mask: carriedMap(mask.to_mask, move({ x: 0, y: 0 }), scale, turn) },
    fades,
  };
}

/** Return a mask's map from where everything lies now, not from where it lay. */
function carriedMap(
  [a, b, c, d, e, f]: Mask["to_mask"],
  home: Point,
  scale: number,
  turn: number,
): Mask["to_mask"] {
  const angle = (turn * Math.PI) / 180;
  const [cosine, sine] = [Math.cos(angle) / scale, Math.sin(angle) / scale];
  const row = (x: number, y: number, rest: number): [number, number, number] => {
    const [across, down] = [x * cosine - y * sine, x * sine + y * cosine];
    return [across, down, rest - across * home.x - down * home.y];
  };
  return [...row(a, b, c), ...row(d, e, f)];
}

function keptPoint({ x, y }: Point): Point {
  const kept = (pixels: number) =>
    Math.min(Math.max(pixels, PLACEMENT.x.minimum), PLACEMENT.x.maximum);
  return { x: kept(x), y: kept(y) };
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
  group: Pick<Placement, "flipped" | "upended">,
  at: Point,
  scale: number,
  turn: number,
): Placement {
  return {
    ...placement,
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
