/** Strokes of the brush as the hand makes them. */

import { STROKE } from "@generated/limits";
import { type Edit, isPlaced, type Layer, type MaskPart } from "@/model/composite";
import { liesOn } from "@/model/geometry";
import type { Lying } from "@/model/lying";
import { openPart } from "@/model/masks";
import type { Point } from "@/model/points";

export type PaintedPart = Extract<MaskPart, { kind: "painted" }>;
export type PaintEdit = Extract<Edit, { kind: "paint_stroke" }>;
export type StrokePoint = readonly [number, number, number];

export interface BrushShape {
  readonly size: number;
  readonly softness: number;
  readonly strength: number;
  readonly shows: boolean;
}

const FRESH = "new-";

/** Return an id for a painted part that its first stroke will make. */
export function freshPart(id: string): string {
  return FRESH + id;
}

/** Return the id of the part that the brush paints in, if it is the brush that is open. */
export function brushPart(layer: Layer | undefined, line: string | null): string | null {
  const part = openPart(layer, line);
  if (line !== null && part?.id !== line) return line.startsWith(FRESH) ? line : null;
  return part?.kind === "painted" ? part.id : null;
}

/** Tell whether the layer has anything where a stroke begins. */
export function canPaintAt(layer: Layer, at: Point): boolean {
  return !isPlaced(layer) || layer.kind === "group" || liesOn(layer, at);
}

/** The service takes strokes over twice as many pixels, each as often as it is gone over. */
const MOST_AREA = 100_000_000;
/** Nearer than this share of the brush, a point changes nothing to be seen. */
const NEAREST = 0.03;

/** Tell whether a stroke must be sent before it goes on. */
export function isFull({
  points,
  size,
}: Pick<NonNullable<PaintEdit["stroke"]>, "points" | "size">): boolean {
  return points.length >= STROKE.points.maxItems / 2 || points.length * size ** 2 > MOST_AREA;
}

/** Tell whether a point is far enough from the one before to count. */
export function isFarEnough(before: Point | undefined, at: Point, size: number): boolean {
  return !before || Math.hypot(at.x - before.x, at.y - before.y) >= size * NEAREST;
}

/** Return the edit that paints a stroke through points of the canvas. */
export function strokeEdit(
  layer: Layer,
  part: string,
  lying: Lying,
  points: readonly { readonly at: Point; readonly pressure: number }[],
  brush: BrushShape,
): PaintEdit {
  const own = points.map(({ at, pressure }): [number, number, number] => {
    const { x, y } = lying.fromCanvas(at);
    return [held(x), held(y), Math.round(pressure * 1000) / 1000];
  });
  const size = brush.size * ownScale(lying, points[0]?.at ?? { x: 0, y: 0 });
  return {
    kind: "paint_stroke",
    layer_id: layer.id,
    part_id: part,
    stroke: {
      points: own,
      size: Math.min(Math.max(round(size), STROKE.size.minimum), STROKE.size.maximum),
      softness: brush.softness,
      strength: brush.strength,
      shows: brush.shows,
    },
  };
}

/** How many of a mask's own pixels lie on one of the canvas, along a side. */
function ownScale(lying: Lying, at: Point): number {
  return Math.sqrt(Math.abs(spreadOf(lying.fromCanvas, at).area)) || 1;
}

/** Return how far from its points, on the canvas, a stroke may cover anything. */
export function reachOf(lying: Lying, stroke: NonNullable<PaintEdit["stroke"]>): number {
  const [x = 0, y = 0] = stroke.points[0] ?? [];
  const { area, squares } = spreadOf(lying.toCanvas, { x, y });
  // The greatest length that a step of one can get: a circle may become an ellipse.
  const longest = Math.sqrt((squares + Math.sqrt(Math.max(squares ** 2 - 4 * area ** 2, 0))) / 2);
  return (stroke.size / 2 + 1) * longest;
}

/** Return what becomes of a step to the right and one down: their area, and squares' sum. */
function spreadOf(map: (at: Point) => Point, at: Point) {
  const from = map(at);
  const right = map({ x: at.x + 1, y: at.y });
  const below = map({ x: at.x, y: at.y + 1 });
  const [a, b] = [right.x - from.x, right.y - from.y];
  const [c, d] = [below.x - from.x, below.y - from.y];
  return { area: a * d - b * c, squares: a ** 2 + b ** 2 + c ** 2 + d ** 2 };
}

/** The service takes no points farther away; no picture is that large. */
const { minimum, maximum } = STROKE.points.each.each;

function held(position: number): number {
  return round(Math.min(Math.max(position, minimum), maximum));
}

function round(value: number): number {
  return Math.round(value * 100) / 100;
}
