/** Which layer a click means, where several lie over one another. */

import { isPlaced, type Layer, type PlacedLayer } from "@/model/composite";
import { cornersOf, toSource } from "@/model/geometry";
import type { Point, Size } from "@/model/points";

/** A layer that covers more of the sheet than this hides what lies under it from clicks. */
const MOST_OF_IT = 0.6;
/** Weaker than this, a layer is looked through. */
const SOLID = 0.6;

/**
 * Return the layer that a click takes of those under it, front to back: veils are passed
 * over where something solid lies beneath.
 */
export function takenByClick(found: readonly PlacedLayer[], sheet: Size): PlacedLayer | undefined {
  return found.find((layer) => !isVeil(layer, sheet)) ?? found[0];
}

/** Tell whether a layer is looked through rather than at, over most of the sheet. */
export function isVeil(layer: PlacedLayer, sheet: Size): boolean {
  const seenThrough = layer.blend !== "normal" || layer.opacity < SOLID;
  return seenThrough && coverage(layer, sheet) > MOST_OF_IT;
}

/** Return the share of a sheet that a layer lies over, 0..1. */
export function coverage(layer: PlacedLayer, sheet: Size): number {
  const cuts: [keyof Point, number, 1 | -1][] = [
    ["x", 0, 1],
    ["x", sheet.width, -1],
    ["y", 0, 1],
    ["y", sheet.height, -1],
  ];
  const inside = cuts.reduce<readonly Point[]>(
    (shape, [axis, edge, side]) => cutOff(shape, axis, edge, side),
    cornersOf(layer),
  );
  return areaOf(inside) / (sheet.width * sheet.height);
}

/** Keep the part of a convex shape that lies on one side of a straight edge. */
function cutOff(
  shape: readonly Point[],
  axis: keyof Point,
  edge: number,
  side: 1 | -1,
): readonly Point[] {
  const beyond = (point: Point) => (point[axis] - edge) * side;
  return shape.flatMap((point, place) => {
    const before = shape.at(place - 1) ?? point;
    const [from, to] = [beyond(before), beyond(point)];
    const kept = to >= 0 ? [point] : [];
    if (from >= 0 === to >= 0) return kept;
    const share = from / (from - to);
    const crossing = {
      x: before.x + (point.x - before.x) * share,
      y: before.y + (point.y - before.y) * share,
    };
    return [crossing, ...kept];
  });
}

function areaOf(shape: readonly Point[]): number {
  const doubled = shape.reduce((sum, point, place) => {
    const before = shape.at(place - 1) ?? point;
    return sum + before.x * point.y - point.x * before.y;
  }, 0);
  return Math.abs(doubled) / 2;
}

/** Return the part of a layer, in its own pixels, that the sheet it lies on shows. */
export function seenPart(layer: Layer | undefined, sheet: Size): { middle: Point; size: Size } {
  const whole = { left: 0, top: 0, right: sheet.width, bottom: sheet.height };
  const box = isPlaced(layer) ? seenBox(layer, sheet) : whole;
  return {
    middle: { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 },
    size: { width: box.right - box.left, height: box.bottom - box.top },
  };
}

function seenBox(layer: PlacedLayer, sheet: Size) {
  const corners = [
    { x: 0, y: 0 },
    { x: sheet.width, y: 0 },
    { x: sheet.width, y: sheet.height },
    { x: 0, y: sheet.height },
  ].map((corner) => toSource(layer, corner));
  const across = corners.map(({ x }) => x);
  const down = corners.map(({ y }) => y);
  const box = {
    left: Math.max(Math.min(...across), 0),
    top: Math.max(Math.min(...down), 0),
    right: Math.min(Math.max(...across), layer.width),
    bottom: Math.min(Math.max(...down), layer.height),
  };
  const isSeen = box.left < box.right && box.top < box.bottom;
  return isSeen ? box : { left: 0, top: 0, right: layer.width, bottom: layer.height };
}
