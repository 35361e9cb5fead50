/** Shapes of a mask by their grips, and new ones. */

import { v4 as newId } from "uuid";
import {
  allLayers,
  type Composite,
  type Edit,
  type Layer,
  type Mask,
  type MaskPart,
} from "@/model/composite";
import { wrappedTurn } from "@/model/geometry";
import type { Point, Size } from "@/model/points";
import { seenPart } from "@/model/reaching";

export type ShapeGrip = 0 | 1 | 2 | 3 | "middle" | "turn" | "soft";
/** A part that is a shape. */
export type ShapePart = Extract<MaskPart, { kind: "ellipse" | "rectangle" }>;
export type JoinWord = MaskPart["join"];

export const EMPTY_MASK: Mask = {
  parts: [],
  inverted: false,
  strength: 1,
  softened: 0,
  grown: 0,
  smoothed: 0,
  cleaned: 0,
  linked: true,
  to_mask: [1, 0, 0, 0, 1, 0],
};

const DEGREE = Math.PI / 180;
const LEAST_SIDE = 1;

/** Tell whether any mask's pixels follow from those round them. */
export function hasSpreadingMasks(composite: Composite): boolean {
  return allLayers(composite.layers).some(
    ({ mask }) => mask && (mask.softened || mask.grown || mask.smoothed),
  );
}

/** Tell whether a mask shows what is painted alone: all else is no loss to be seen. */
export function showsOnlyStrokes(mask: Mask | null | undefined): boolean {
  const first = mask?.parts.find((part) => part.works);
  return first?.kind === "painted" && first.join === "add";
}

/** Return the part that is worked on: the one of the open line, or the last. */
export function openPart(layer: Layer | undefined, line: string | null): MaskPart | undefined {
  const parts = layer?.mask?.parts ?? [];
  return parts.find((part) => part.id === line) ?? parts.at(-1);
}

/** Return the shape that is worked on, if it is one. */
export function openShape(layer: Layer | undefined, line: string | null): ShapePart | undefined {
  const part = openPart(layer, line);
  const isAnother = line !== null && part?.id !== line;
  const isShape = part?.kind === "ellipse" || part?.kind === "rectangle";
  return isShape && !isAnother ? part : undefined;
}

/** Return a new shape in the middle of a layer, or of the sheet. */
export function newShape(
  layer: Layer | undefined,
  sheet: Size,
  kind: ShapePart["kind"],
): ShapePart {
  const { middle, size } = seenPart(layer, sheet);
  const side = Math.round(Math.min(size.width, size.height) * 0.7);
  const base = {
    id: newId(),
    join: (layer?.mask?.parts.length ?? 0) > 0 ? ("keep" as const) : ("add" as const),
    inverted: false,
    works: true,
    x: round(middle.x),
    y: round(middle.y),
    width: side,
    height: side,
    turn: 0,
    softness: Math.round(side * 0.06),
  };
  if (kind === "ellipse") return { ...base, kind };
  return { ...base, kind, width: Math.round(side * 1.2), corner: 0, softness: 0 };
}

/** Return a part that is another layer's shape. */
export function newLayerPart(layer_id: string): MaskPart {
  const base = { id: newId(), join: "keep", inverted: false, works: true } as const;
  return { ...base, kind: "layer", layer_id, quality: "shape" };
}

/** Return a shape's position so many half widths and heights from its middle. */
export function shapePoint(part: ShapePart, across: number, down: number): Point {
  return fromMiddle(part, (across * part.width) / 2, (down * part.height) / 2);
}

/** Return where a shape's corners lie: its own top left, then clockwise. */
export function shapeCorners(part: ShapePart): [Point, Point, Point, Point] {
  return [
    shapePoint(part, -1, -1),
    shapePoint(part, 1, -1),
    shapePoint(part, 1, 1),
    shapePoint(part, -1, 1),
  ];
}

interface Keys {
  readonly shiftKey: boolean;
  readonly altKey: boolean;
}

const TURN_STEP = 15;

/**
 * Return a shape with one of its grips dragged elsewhere. A corner moves while the one
 * across stays, with Alt the middle; with Shift width and height become the same.
 */
export function draggedShape<P extends ShapePart>(
  part: P,
  grip: ShapeGrip,
  to: Point,
  keys: Keys,
): P {
  if (grip === "middle") return { ...part, x: round(to.x), y: round(to.y) };
  if (grip === "turn") {
    const turn = Math.atan2(to.x - part.x, part.y - to.y) / DEGREE;
    const stepped = keys.shiftKey ? Math.round(turn / TURN_STEP) * TURN_STEP : turn;
    return { ...part, turn: round(wrappedTurn(stepped)) };
  }
  const local = turned({ x: to.x - part.x, y: to.y - part.y }, -part.turn);
  if (grip === "soft") {
    const beyond = Math.abs(local.x) - part.width / 2;
    return { ...part, softness: Math.round(Math.max(2 * beyond, 0)) };
  }
  return resized(part, grip, local, keys);
}

function resized<P extends ShapePart>(part: P, corner: 0 | 1 | 2 | 3, local: Point, keys: Keys): P {
  const side = { x: corner === 1 || corner === 2 ? 1 : -1, y: corner >= 2 ? 1 : -1 };
  const spread = keys.altKey ? 0 : 1;
  const fixed = {
    x: (-side.x * spread * part.width) / 2,
    y: (-side.y * spread * part.height) / 2,
  };
  let width = Math.max(Math.abs(local.x - fixed.x) * (2 - spread), LEAST_SIDE);
  let height = Math.max(Math.abs(local.y - fixed.y) * (2 - spread), LEAST_SIDE);
  if (keys.shiftKey) width = height = Math.max(width, height);
  const shift = {
    x: fixed.x + (side.x * spread * width) / 2,
    y: fixed.y + (side.y * spread * height) / 2,
  };
  const middle = turned(shift, part.turn);
  return {
    ...part,
    x: round(part.x + middle.x),
    y: round(part.y + middle.y),
    width: round(width),
    height: round(height),
  };
}

/** Return the edit that exchanges a part. */
export function changePart(layer: Layer, part: MaskPart): Edit {
  return { kind: "change_part", layer_id: layer.id, part };
}

function fromMiddle(part: ShapePart, x: number, y: number): Point {
  const at = turned({ x, y }, part.turn);
  return { x: part.x + at.x, y: part.y + at.y };
}

function turned(point: Point, degrees: number): Point {
  const cosine = Math.cos(degrees * DEGREE);
  const sine = Math.sin(degrees * DEGREE);
  return { x: point.x * cosine - point.y * sine, y: point.x * sine + point.y * cosine };
}

function round(value: number): number {
  return Math.round(value * 10) / 10;
}
