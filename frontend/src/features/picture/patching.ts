/** Frames of a part alone: what a stroke has changed since the frame before. */

import type { Frame, Picture } from "@/api/frames";
import { hatched } from "@/features/picture/hatching";
import type { Shown } from "@/features/picture/shown";
import type { FrameArea } from "@/model/viewing";

/** A part of a frame, in the frame's own pixels. */
export interface Part {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** What has been asked for: whatever follows from the same differs by a stroke alone. */
export interface Asked {
  readonly basis: readonly unknown[];
  readonly stroke: object | null;
  /** How many of the stroke's points it has. */
  readonly count: number;
  readonly area: FrameArea;
}

/** A frame, and what the open layer's mask hides of it, hatched. */
export interface Look {
  readonly frame: Frame;
  readonly hidden: Frame | null;
  readonly lines: Frame | null;
}

/** Parts lie on a grid, so that one frame after another asks for the same. */
const GRID = 64;
/** A part that covers more of a frame than this is not worth its while. */
const MOST_OF_IT = 0.6;

/** Return all that pixels depend on but the stroke under way. */
export function basisOf(shown: Shown): readonly unknown[] {
  const { projectId, revision, canvas, view, stage, pixelRatio } = shown;
  const { hatched, maskOf, maskSeen, printed } = shown;
  const others = shown.unsaved.filter((edit) => edit !== shown.trace?.edit);
  const seen = [hatched, maskOf, maskSeen, printed];
  return [projectId, revision, canvas, view, stage, pixelRatio, ...seen, ...others];
}

/**
 * Return which part of the frame at hand a stroke has changed since that was asked for;
 * null where the frame must come whole, or in another size.
 */
export function partToAsk(asked: Asked | null, shown: Shown, area: FrameArea): Part | null {
  const { trace } = shown;
  if (!asked || !trace || !isSame(asked.basis, basisOf(shown))) return null;
  const { request } = area;
  if (asked.area.request.scale !== request.scale) return null;
  const known = asked.stroke === trace.stroke ? asked.count : 0;
  // The last segment may have been drawn otherwise before.
  const points = trace.points.slice(Math.max(known - 2, 0));
  const xs = points.map(({ x }) => x);
  const ys = points.map(({ y }) => y);
  const [left, right] = reached(xs, request.x, request.scale, request.width, trace.reach);
  const [top, bottom] = reached(ys, request.y, request.scale, request.height, trace.reach);
  const part = { x: left, y: top, width: right - left, height: bottom - top };
  const share = (part.width * part.height) / (request.width * request.height);
  return share > 0 && share < MOST_OF_IT ? part : null;
}

/** Return the first pixel that positions reach, and the one after the last. */
function reached(
  positions: readonly number[],
  origin: number,
  scale: number,
  length: number,
  reach: number,
): readonly [number, number] {
  const first = (Math.min(...positions) - reach - origin) * scale - 1;
  const last = (Math.max(...positions) + reach - origin) * scale + 1;
  const snapped = [Math.floor(first / GRID) * GRID, Math.ceil(last / GRID) * GRID];
  const [from, to] = snapped.map((at) => Math.min(Math.max(at, 0), length));
  return [from ?? 0, to ?? 0];
}

/** Return what to ask the service for to have a part of a frame. */
export function requestOf(area: FrameArea, part: Part): FrameArea["request"] {
  const { request } = area;
  const { width, height } = part;
  const x = request.x + part.x / request.scale;
  const y = request.y + part.y / request.scale;
  return { x, y, width, height, scale: request.scale };
}

function isSame(one: readonly unknown[], other: readonly unknown[]): boolean {
  return one.length === other.length && one.every((value, place) => value === other[place]);
}

/** Hatch what a frame, or a part of one, says is hidden. */
export async function lookOf(
  frame: Frame,
  hidden: Frame | null,
  detail: number,
  origin: { readonly x: number; readonly y: number } = { x: 0, y: 0 },
): Promise<Look> {
  return { frame, hidden, lines: hidden && (await hatched(hidden, detail, origin)) };
}

/** Lay a part over what is shown; the pictures that are returned can be laid on again. */
export function patched(onto: Look, patch: Look, part: Part): Look {
  const { width, height } = onto.frame.color;
  const lay = (whole: Frame | null, some: Frame | null): Frame | null => {
    if (!whole || !some) return whole;
    const size = { width, height };
    const veil = whole.veil || some.veil ? laid(whole.veil, some.veil, part, size) : null;
    return { color: laid(whole.color, some.color, part, size), veil };
  };
  return {
    frame: lay(onto.frame, patch.frame) ?? onto.frame,
    hidden: lay(onto.hidden, patch.hidden),
    lines: lay(onto.lines, patch.lines),
  };
}

/** Lay one picture on another; a veil that is not there is black: nothing shows through. */
function laid(
  onto: Picture | null,
  some: Picture | null,
  part: Part,
  size: { readonly width: number; readonly height: number },
): Picture {
  const canvas =
    onto instanceof OffscreenCanvas ? onto : new OffscreenCanvas(size.width, size.height);
  const context = canvas.getContext("2d");
  if (!context) return canvas;
  context.fillStyle = "#000000";
  if (onto !== canvas) {
    if (onto) context.drawImage(onto, 0, 0);
    else context.fillRect(0, 0, size.width, size.height);
    if (onto instanceof ImageBitmap) onto.close();
  }
  if (some) context.drawImage(some, part.x, part.y);
  else context.fillRect(part.x, part.y, part.width, part.height);
  return canvas;
}
