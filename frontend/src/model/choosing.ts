/** Several layers that are worked on as one. */

import type { Composite, Edit, Layer, PlacedLayer } from "@/model/composite";
import { isLocked, isPlaced, layerById } from "@/model/composite";
import { cornersOf } from "@/model/geometry";
import { type Carrying, carriedPlacement, intoPile, onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";

/** Return the chosen layers that have a place, as they lie on the canvas. */
export function chosenOnCanvas(composite: Composite, ids: readonly string[]): PlacedLayer[] {
  return ids
    .map((id) => layerById(composite, id))
    .filter(isPlaced)
    .map((layer) => onCanvas(composite, layer));
}

/** Return those of them that may be moved. */
export function movable(composite: Composite, layers: readonly PlacedLayer[]): PlacedLayer[] {
  return layers.filter((layer) => !isLocked(composite, layer.id));
}

/** Return the edit that carries layers on the canvas along as one. */
export function carryAll(
  composite: Composite,
  layers: readonly PlacedLayer[],
  by: Carrying,
  deed: "moved" | "scaled" | "turned",
): Edit {
  return {
    kind: "place_layers",
    deed,
    places: layers.map((layer) => ({
      layer_id: layer.id,
      placement: intoPile(composite, layer.id, carriedPlacement(layer.placement, by)),
    })),
  };
}

/**
 * Return what is chosen after one more layer, or one less: those alone that have a place.
 * With the first the open layer is chosen too.
 */
export function toggled(
  composite: Composite,
  chosen: readonly string[],
  open: string | null,
  id: string,
): readonly string[] {
  const known = chosen.filter((one) => isPlaced(layerById(composite, one)));
  const before = known.length === 0 && open ? [open] : known;
  const others = before.filter((one) => one !== id);
  const isLetGo = known.includes(id) || (before.includes(id) && others.length > 0);
  const all = isLetGo ? others : [...others, id];
  return all.filter((one) => isPlaced(layerById(composite, one)));
}

/** Scale about a point that stays. */
export function scalingAbout(fixed: Point, scale: number): Carrying {
  return { x: fixed.x * (1 - scale), y: fixed.y * (1 - scale), scale, turn: 0 };
}

/** Turn about a point that stays, in degrees clockwise. */
export function turningAbout(fixed: Point, turn: number): Carrying {
  const angle = (turn * Math.PI) / 180;
  const [cosine, sine] = [Math.cos(angle), Math.sin(angle)];
  return {
    x: fixed.x - cosine * fixed.x + sine * fixed.y,
    y: fixed.y - sine * fixed.x - cosine * fixed.y,
    scale: 1,
    turn,
  };
}

/** Return the layers of one pile whose greater part lies in a ring, from back to front. */
export function layersInRing(
  layers: readonly Layer[],
  ring: readonly Point[],
): readonly PlacedLayer[] {
  return layers
    .filter(isPlaced)
    .filter((layer) => layer.visible && !layer.locked)
    .filter((layer) => {
      const [a, b, c, d] = cornersOf(layer);
      const probes = SHARES.flatMap((x) => SHARES.map((y) => between(a, b, c, d, x, y)));
      return probes.filter((at) => isInside(ring, at)).length * 2 > probes.length;
    });
}

const SHARES = [0.1, 0.3, 0.5, 0.7, 0.9];

function between(a: Point, b: Point, c: Point, d: Point, x: number, y: number): Point {
  const weigh = (name: keyof Point) =>
    (a[name] * (1 - x) + b[name] * x) * (1 - y) + (d[name] * (1 - x) + c[name] * x) * y;
  return { x: weigh("x"), y: weigh("y") };
}

/** Tell whether a point lies in a ring, by the even-odd rule. */
export function isInside(ring: readonly Point[], at: Point): boolean {
  return ring.reduce((inside, one, place) => {
    const other = ring.at(place - 1) ?? one;
    const crosses =
      one.y > at.y !== other.y > at.y &&
      at.x < ((other.x - one.x) * (at.y - one.y)) / (other.y - one.y) + one.x;
    return crosses ? !inside : inside;
  }, false);
}
