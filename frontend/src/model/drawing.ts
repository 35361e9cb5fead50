/** Parts of a mask as they are drawn on the stage. */

import { OUTLINE_PART } from "@generated/limits";
import { v4 as newId } from "uuid";
import {
  type Composite,
  isPlaced,
  type Layer,
  type MaskPart,
  type PhotoLayer,
} from "@/model/composite";
import { toSource } from "@/model/geometry";
import type { Lying } from "@/model/lying";
import { newShape, type ShapePart } from "@/model/masks";
import { onCanvas } from "@/model/nesting";
import type { Point, Size } from "@/model/points";
import { seenPart } from "@/model/reaching";

/** What can be drawn: the kinds of parts that begin on the stage. */
/** So near, in pixels of the screen, counts as on the spot. */
export const NEAR = 10;

export type Drawn = "ellipse" | "rectangle" | "outline" | "even";
export type OutlinePart = Extract<MaskPart, { kind: "outline" }>;
export type EvenPart = Extract<MaskPart, { kind: "even" }>;

const PREFIX = "draw-";
const DRAWN: readonly Drawn[] = ["ellipse", "rectangle", "outline", "even"];

/** Return the line of a recipe that is not there yet: what is drawn next becomes it. */
export function drawLine(kind: Drawn): string {
  return PREFIX + kind;
}

/** Return what is to be drawn next, if anything is. */
export function drawnKind(line: string | null): Drawn | null {
  return DRAWN.find((kind) => line === drawLine(kind)) ?? null;
}

interface Keys {
  readonly shiftKey: boolean;
  readonly altKey: boolean;
}

const LEAST_SIDE = 1;

/**
 * Return a shape from one corner to the other, or with Alt round its middle; with Shift
 * its width and height are the same.
 */
export function shapeBetween<P extends ShapePart>(part: P, from: Point, to: Point, keys: Keys): P {
  const reach = { x: to.x - from.x, y: to.y - from.y };
  if (keys.shiftKey) {
    const side = Math.max(Math.abs(reach.x), Math.abs(reach.y));
    reach.x = reach.x < 0 ? -side : side;
    reach.y = reach.y < 0 ? -side : side;
  }
  const spread = keys.altKey ? 2 : 1;
  const middle = keys.altKey ? { x: 0, y: 0 } : { x: reach.x / 2, y: reach.y / 2 };
  return {
    ...part,
    x: tenth(from.x + middle.x),
    y: tenth(from.y + middle.y),
    width: Math.max(tenth(Math.abs(reach.x) * spread), LEAST_SIDE),
    height: Math.max(tenth(Math.abs(reach.y) * spread), LEAST_SIDE),
  };
}

/** Return an outline through corners in a mask's own pixels. */
export function newOutline(layer: Layer, corners: readonly Point[]): OutlinePart {
  const { id, join } = newShape(layer, NO_SHEET, "rectangle");
  const points = corners.map(({ x, y }): [number, number] => [tenth(x), tenth(y)]);
  return { id, join, inverted: false, works: true, kind: "outline", points, softness: 0 };
}

const NO_SHEET: Size = { width: 1, height: 1 };
const DIAMOND = [
  { x: 0, y: -0.35 },
  { x: 0.35, y: 0 },
  { x: 0, y: 0.35 },
  { x: -0.35, y: 0 },
];

/** Return the corners of a diamond in the middle of a layer, or of the sheet. */
export function diamondIn(layer: Layer, sheet: Size): Point[] {
  const { middle, size } = seenPart(layer, sheet);
  const side = Math.min(size.width, size.height);
  return DIAMOND.map(({ x, y }) => ({ x: middle.x + x * side, y: middle.y + y * side }));
}

/** Return an outline with one of its corners elsewhere. */
export function movedCorner(part: OutlinePart, place: number, to: Point): OutlinePart {
  const corner: [number, number] = [tenth(to.x), tenth(to.y)];
  return { ...part, points: part.points.map((one, at) => (at === place ? corner : one)) };
}

/** Return an outline that has moved as a whole, its middle to a position. */
export function movedOutline(part: OutlinePart, to: Point): OutlinePart {
  const middle = middleOf(part);
  const [across, down] = [to.x - middle.x, to.y - middle.y];
  return {
    ...part,
    points: part.points.map(([x, y]): [number, number] => [tenth(x + across), tenth(y + down)]),
  };
}

/** Return the middle of an outline's corners. */
export function middleOf(part: OutlinePart): Point {
  const count = part.points.length;
  const sum = part.points.reduce((at, [x, y]) => ({ x: at.x + x, y: at.y + y }), { x: 0, y: 0 });
  return { x: sum.x / count, y: sum.y / count };
}

/** Return an outline with another corner half way between one and the next. */
export function withCornerAfter(part: OutlinePart, place: number): OutlinePart {
  const [here, next] = [part.points[place], part.points[(place + 1) % part.points.length]];
  if (!here || !next || part.points.length >= OUTLINE_PART.points.maxItems) return part;
  const between: [number, number] = [
    tenth((here[0] + next[0]) / 2),
    tenth((here[1] + next[1]) / 2),
  ];
  return { ...part, points: part.points.toSpliced(place + 1, 0, between) };
}

/** Return an outline without one of its corners; three always stay. */
export function withoutCorner(part: OutlinePart, place: number): OutlinePart {
  if (part.points.length <= OUTLINE_PART.points.minItems) return part;
  return { ...part, points: part.points.toSpliced(place, 1) };
}

/**
 * Return a free line with as few points as keep it within a distance of itself (Ramer
 * 1972, Douglas and Peucker 1973).
 */
export function simplified(line: readonly Point[], within: number): Point[] {
  const [first, last] = [line[0], line.at(-1)];
  if (!first || !last || line.length < 3) return [...line];
  let farthest = 0;
  let most = within;
  line.forEach((point, place) => {
    const away = distanceFrom(point, first, last);
    if (away > most) [farthest, most] = [place, away];
  });
  if (farthest === 0) return [first, last];
  const head = simplified(line.slice(0, farthest + 1), within);
  return [...head.slice(0, -1), ...simplified(line.slice(farthest), within)];
}

function distanceFrom(point: Point, from: Point, to: Point): number {
  const [across, down] = [to.x - from.x, to.y - from.y];
  const squared = across ** 2 + down ** 2;
  const along = squared && ((point.x - from.x) * across + (point.y - from.y) * down) / squared;
  const share = Math.min(Math.max(along, 0), 1);
  return Math.hypot(point.x - from.x - share * across, point.y - from.y - share * down);
}

const FIRST_TOLERANCE = 12;

/** Return an area that looks like the photo does at a position of the canvas. */
export function newEven(
  composite: Composite,
  layer: PhotoLayer,
  lying: Lying,
  at: Point,
): EvenPart {
  return {
    ...{ id: newId(), kind: "even", join: "take", inverted: false, works: true },
    picture: layer.picture,
    spots: [spotAt(composite, layer, at)],
    tolerance: FIRST_TOLERANCE,
    connected: true,
    to_picture: toPicture(composite, layer, lying),
  };
}

/** Return the pixel of a photo that lies at a position of the canvas. */
export function spotAt(composite: Composite, layer: PhotoLayer, at: Point): [number, number] {
  const { x, y } = toSource(onCanvas(composite, layer), at);
  return [tenth(x), tenth(y)];
}

/** Return how a mask's own positions map to a photo's pixels. */
export function toPicture(
  composite: Composite,
  layer: PhotoLayer,
  lying: Lying,
): EvenPart["to_picture"] {
  const lifted = onCanvas(composite, layer);
  const map = (x: number, y: number) => toSource(lifted, lying.toCanvas({ x, y }));
  const [origin, right, down] = [map(0, 0), map(1, 0), map(0, 1)];
  return [
    ...([exact(right.x - origin.x), exact(down.x - origin.x), exact(origin.x)] as const),
    ...([exact(right.y - origin.y), exact(down.y - origin.y), exact(origin.y)] as const),
  ];
}

/** Tell whether a layer has colours of its own to be found in. */
export function hasColours(layer: Layer): layer is PhotoLayer {
  return isPlaced(layer) && layer.kind === "photo";
}

/** Tell whether an even colour is found in the layer's photo, and not in another one's. */
export function isOwnColour(layer: Layer, part: EvenPart): boolean {
  return hasColours(layer) && layer.picture === part.picture;
}

/** Without what reckoning to and fro leaves at the end of a number. */
function exact(value: number): number {
  return Math.round(value * 1e9) / 1e9;
}

function tenth(value: number): number {
  return Math.round(value * 10) / 10;
}
