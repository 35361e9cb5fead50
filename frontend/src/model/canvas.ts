/** Other canvases: pulled by an edge, of another size, straightened. Nothing is cut off. */

import { CANVAS } from "@generated/limits";
import type { Canvas, Edit } from "@/model/composite";
import { CROP_GRIPS, type CropGrip, type Pulled } from "@/model/cropping";
import type { Point } from "@/model/points";

export type SetCanvas = Extract<Edit, { kind: "set_canvas" }>;

/** What becomes of all that lies on a canvas whose size changes. */
export type Keeping = "stay" | "fill" | "fit";

/** Which point of the canvas stays, 0..1 across and down. */
export interface Anchor {
  readonly x: number;
  readonly y: number;
}

export const MIDDLE: Anchor = { x: 0.5, y: 0.5 };

/**
 * Return the edit that gives the canvas another size. What lies on it stays as large as
 * it is, or is resized until it fills the new canvas, or fits into it.
 */
export function resized(
  canvas: Canvas,
  size: { readonly width: number; readonly height: number; readonly ppi?: number },
  keeping: Keeping,
  anchor: Anchor = MIDDLE,
): SetCanvas {
  const { width, height, ppi = canvas.ppi } = size;
  const [across, down] = [width / canvas.width, height / canvas.height];
  const scales = { stay: 1, fill: Math.max(across, down), fit: Math.min(across, down) };
  const scale = scales[keeping];
  return {
    kind: "set_canvas",
    canvas: { ...canvas, width, height, ppi },
    shift_x: (width - canvas.width * scale) * anchor.x,
    shift_y: (height - canvas.height * scale) * anchor.y,
    scale,
    turn: 0,
  };
}

/** Return the edit that pulls the canvas's side or corner to a position on it. */
export function pulledSheet(
  canvas: Canvas,
  grip: CropGrip,
  to: Point,
  ratio: number | null,
): SetCanvas {
  const pulled: Pulled = CROP_GRIPS[grip];
  const wide = pulledLength(pulled.across, "left", canvas.width, to.x);
  const high = pulledLength(pulled.down, "top", canvas.height, to.y);
  const size = inRatio(pulled, wide, high, ratio);
  const keeps = ratio === null;
  return {
    kind: "set_canvas",
    canvas: { ...canvas, ...size },
    shift_x: -begun(pulled.across, "left", canvas.width, size.width, keeps),
    shift_y: -begun(pulled.down, "top", canvas.height, size.height, keeps),
    scale: 1,
    turn: 0,
  };
}

/** How long a side becomes when one of its ends is pulled to a position. */
function pulledLength(side: string | null, low: string, length: number, to: number): number {
  if (side === null) return length;
  return Math.max(side === low ? length - to : to, 1);
}

function inRatio(pulled: Pulled, wide: number, high: number, ratio: number | null) {
  if (ratio === null) return heldSize(wide, high, null);
  const byHeight = pulled.down === null ? 0 : high * ratio;
  const width = Math.max(pulled.across === null ? 0 : wide, byHeight);
  return heldSize(width, width / ratio, ratio);
}

/** Where a side begins: one that nothing pulls stays, or grows about its middle. */
function begun(
  side: string | null,
  low: string,
  before: number,
  after: number,
  keeps: boolean,
): number {
  if (side === low) return before - after;
  return side === null && !keeps ? Math.round((before - after) / 2) : 0;
}

/** Keep a size within what a canvas may have, in proportion where that is wanted. */
function heldSize(width: number, height: number, ratio: number | null) {
  const most = CANVAS.width.maximum;
  const shrink = ratio === null ? 1 : Math.min(1, most / width, most / height);
  const held = (side: number) => Math.min(Math.max(Math.round(side * shrink), 1), most);
  return { width: held(width), height: held(height) };
}

const DEGREE = Math.PI / 180;
/** Lines that lean further are meant for upright ones. */
const HALF_RIGHT = 45;

/** Return by how many degrees to turn so that a line becomes level, or upright. */
export function leaning(from: Point, to: Point): number {
  const angle = Math.atan2(to.y - from.y, to.x - from.x) / DEGREE;
  const rest = ((((angle + HALF_RIGHT) % 90) + 90) % 90) - HALF_RIGHT;
  return rest === 0 ? 0 : -rest;
}

/**
 * Return the edit that turns everything about the canvas's middle. The canvas becomes as
 * large as leaves no empty corner where it was full before, in its own proportion.
 */
export function straightened(canvas: Canvas, turn: number): SetCanvas {
  const [cosine, sine] = [Math.cos(turn * DEGREE), Math.sin(turn * DEGREE)];
  const { width, height } = canvas;
  const lean = Math.abs(sine);
  const shrink = Math.min(
    width / (width * cosine + height * lean),
    height / (width * lean + height * cosine),
  );
  const size = {
    width: Math.max(Math.floor(width * shrink), 1),
    height: Math.max(Math.floor(height * shrink), 1),
  };
  return {
    kind: "set_canvas",
    canvas: { ...canvas, ...size },
    shift_x: size.width / 2 - (cosine * width) / 2 + (sine * height) / 2,
    shift_y: size.height / 2 - (sine * width) / 2 - (cosine * height) / 2,
    scale: 1,
    turn,
  };
}
