/** Where layers lie: the arithmetic behind grips and clicks. */

import { PLACEMENT } from "@generated/limits";
import {
  type Canvas,
  isPlaced,
  type Layer,
  type PlacedLayer,
  type Placement,
} from "@/model/composite";
import type { Point } from "@/model/points";
import { cornerPoints, frameSize, fromFrame, toFrame, unwarped, warped } from "@/model/shaping";

export const LEAST_SCALE = 0.001;
export const GREATEST_SCALE = PLACEMENT.scale_x.maximum;

const DEGREE = Math.PI / 180;

/** Return the layer's corners on the canvas: its own top left, then clockwise. */
export function cornersOf(layer: PlacedLayer): [Point, Point, Point, Point] {
  const [first, second, third, fourth] = cornerPoints(layer.placement.corners).map((at) =>
    planeToCanvas(layer, at),
  );
  return [first, second, third, fourth] as [Point, Point, Point, Point];
}

/** Return the corners of the layer's frame as they would lie if none were pulled. */
export function straightCorners(layer: PlacedLayer): [Point, Point, Point, Point] {
  return cornersOf({ ...layer, placement: { ...layer.placement, corners: null } });
}

/** Map a position in the layer's photo to the canvas. */
export function toCanvas(layer: PlacedLayer, at: Point): Point {
  const place = layer.placement;
  return planeToCanvas(layer, warped(place, toFrame(place, layer, at)));
}

/** Map a position on the canvas to the layer's photo. */
export function toSource(layer: PlacedLayer, at: Point): Point {
  const place = layer.placement;
  return fromFrame(place, layer, unwarped(place, canvasToPlane(layer, at)));
}

/** Map a position in the frame's plane, of which the straight frame fills 0..1. */
export function planeToCanvas(layer: PlacedLayer, at: Point): Point {
  const place = layer.placement;
  const { width, height } = frameSize(place, layer);
  const across = (at.x - 0.5) * width * place.scale_x * (place.flipped ? -1 : 1);
  const down = (at.y - 0.5) * height * place.scale_y * (place.upended ? -1 : 1);
  const turned = rotated({ x: across, y: down }, place.turn);
  return { x: place.x + turned.x, y: place.y + turned.y };
}

/** Map a position on the canvas to the frame's plane. */
export function canvasToPlane(layer: PlacedLayer, at: Point): Point {
  const place = layer.placement;
  const { width, height } = frameSize(place, layer);
  const back = rotated({ x: at.x - place.x, y: at.y - place.y }, -place.turn);
  return {
    x: (back.x / (place.scale_x * width)) * (place.flipped ? -1 : 1) + 0.5,
    y: (back.y / (place.scale_y * height)) * (place.upended ? -1 : 1) + 0.5,
  };
}

/** Tell whether a position on the canvas lies on the layer, within its frame. */
export function liesOn(layer: PlacedLayer, at: Point): boolean {
  const { placement } = layer;
  const frame = unwarped(placement, canvasToPlane(layer, at));
  if (frame.x < 0 || frame.y < 0 || frame.x > 1 || frame.y > 1) return false;
  if (placement.crop?.shape === "ellipse") return Math.hypot(frame.x - 0.5, frame.y - 0.5) <= 0.5;
  const { x, y } = fromFrame(placement, layer, frame);
  return x >= 0 && y >= 0 && x <= layer.width && y <= layer.height;
}

/** Return the layers of one pile that can be taken at a position, front to back. */
export function layersAt(layers: readonly Layer[], at: Point): PlacedLayer[] {
  return layers
    .filter(isPlaced)
    .filter((layer) => layer.visible && !layer.locked && showsAt(layer, at))
    .toReversed();
}

/** A group shows where one of its members does. */
function showsAt(layer: PlacedLayer, at: Point): boolean {
  if (layer.kind !== "group") return liesOn(layer, at);
  const inside = toSource(layer, at);
  return layer.layers.some((one) => isPlaced(one) && one.visible && showsAt(one, inside));
}

/** Move by canvas pixels. */
export function movedBy(place: Placement, x: number, y: number): Placement {
  return { ...place, x: place.x + x, y: place.y + y };
}

/**
 * Scale by dragging a corner to `to`; the opposite corner stays, or the middle with
 * `aboutMiddle`. In proportion unless `free`.
 */
export function scaledByCorner(
  layer: PlacedLayer,
  corner: 0 | 1 | 2 | 3,
  to: Point,
  how: { readonly free: boolean; readonly aboutMiddle: boolean },
): Placement {
  const corners = straightCorners(layer);
  const opposite = corners[(corner + 2) % 4] ?? corners[0];
  const fixed = how.aboutMiddle ? layer.placement : opposite;
  const reach = how.aboutMiddle ? 2 : 1;
  const before = rotated(minus(corners[corner], fixed), -layer.placement.turn);
  const after = rotated(minus(to, fixed), -layer.placement.turn);
  const across = ratio(after.x, before.x);
  const down = ratio(after.y, before.y);
  const even = (after.x * before.x + after.y * before.y) / (before.x ** 2 + before.y ** 2);
  const [byX, byY] = how.free ? [across, down] : [Math.max(even, 0), Math.max(even, 0)];
  const scaleX = clampedScale(layer.placement.scale_x * byX);
  const scaleY = clampedScale(layer.placement.scale_y * byY);
  if (how.aboutMiddle) return { ...layer.placement, scale_x: scaleX, scale_y: scaleY };
  const half = rotated(
    {
      x: ((before.x * scaleX) / layer.placement.scale_x / 2) * reach,
      y: ((before.y * scaleY) / layer.placement.scale_y / 2) * reach,
    },
    layer.placement.turn,
  );
  return {
    ...layer.placement,
    x: fixed.x + half.x,
    y: fixed.y + half.y,
    scale_x: scaleX,
    scale_y: scaleY,
  };
}

/** Turn so that the layer's upper side points to `to`; in steps if wanted. */
export function turnedTowards(place: Placement, to: Point, step: number | null): Placement {
  const angle = Math.atan2(to.x - place.x, place.y - to.y) / DEGREE;
  const turn = step === null ? angle : Math.round(angle / step) * step;
  return { ...place, turn: Math.round(turn * 10) / 10 };
}

/** Return the placement that shows the whole layer in the middle of the canvas. */
export function fittedInside(layer: PlacedLayer, canvas: Canvas): Placement {
  return scaledToCanvas(layer, canvas, Math.min);
}

/** Return the placement at which the layer leaves nothing of the canvas uncovered. */
export function fillingCanvas(layer: PlacedLayer, canvas: Canvas): Placement {
  return scaledToCanvas(layer, canvas, Math.max);
}

function scaledToCanvas(
  layer: PlacedLayer,
  canvas: Canvas,
  choose: (one: number, other: number) => number,
): Placement {
  const cosine = Math.abs(Math.cos(layer.placement.turn * DEGREE));
  const sine = Math.abs(Math.sin(layer.placement.turn * DEGREE));
  // Inside: the canvas must hold the turned layer's box. Filling: the turned layer
  // must hold the canvas, so the canvas is turned against it.
  const inside = choose === Math.min;
  const frame = frameSize(layer.placement, layer);
  const [width, height] = inside
    ? [frame.width * cosine + frame.height * sine, frame.width * sine + frame.height * cosine]
    : [frame.width, frame.height];
  const [needWidth, needHeight] = inside
    ? [canvas.width, canvas.height]
    : [canvas.width * cosine + canvas.height * sine, canvas.width * sine + canvas.height * cosine];
  const scale = clampedScale(choose(needWidth / width, needHeight / height));
  return {
    ...layer.placement,
    x: canvas.width / 2,
    y: canvas.height / 2,
    scale_x: scale,
    scale_y: scale,
  };
}

/** Keep a scale within what the service takes. */
export function clampedScale(scale: number): number {
  return Math.min(Math.max(scale, LEAST_SCALE), GREATEST_SCALE);
}

/** Keep an angle within -180..180 degrees. */
export function wrappedTurn(turn: number): number {
  const wrapped = (((turn % 360) + 540) % 360) - 180;
  return wrapped === -180 ? 180 : wrapped;
}

function rotated(point: Point, degrees: number): Point {
  const cosine = Math.cos(degrees * DEGREE);
  const sine = Math.sin(degrees * DEGREE);
  return { x: point.x * cosine - point.y * sine, y: point.x * sine + point.y * cosine };
}

function minus(one: Point, other: Point): Point {
  return { x: one.x - other.x, y: one.y - other.y };
}

function ratio(after: number, before: number): number {
  return before === 0 ? 1 : Math.max(after / before, 0);
}
