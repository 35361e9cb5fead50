/** The stage's view of the canvas: zoom, pan, and what to ask the service for. */

import { FRAME_VIEW } from "@generated/limits";
import type { Canvas } from "@/model/composite";
import type { Point, Size } from "@/model/points";

/** `scale` is CSS pixels per canvas pixel; `x`, `y` the canvas position at the top left. */
export interface StageView {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

/** A part of the canvas in device pixels: where it is drawn, and what to ask for. */
export interface FrameArea {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
  readonly request: {
    readonly x: number;
    readonly y: number;
    readonly width: number;
    readonly height: number;
    readonly scale: number;
  };
}

export const LEAST_ZOOM = 0.01;
export const GREATEST_ZOOM = 32;
const MARGIN = 28;

/** Return the view that shows the whole canvas, with a margin, never enlarged. */
export function fitView(canvas: Canvas, stage: Size): StageView {
  const room = (side: number) => Math.max(side - 2 * MARGIN, 16);
  const scale = Math.min(room(stage.width) / canvas.width, room(stage.height) / canvas.height, 1);
  return centredView(canvas, stage, scale);
}

/** Return the view with the canvas's middle in the stage's middle. */
export function centredView(canvas: Canvas, stage: Size, scale: number): StageView {
  return {
    x: canvas.width / 2 - stage.width / 2 / scale,
    y: canvas.height / 2 - stage.height / 2 / scale,
    scale,
  };
}

/** Zoom so that what lies under a position of the stage stays under it. */
export function zoomedAt(view: StageView, at: Point, factor: number): StageView {
  const scale = Math.min(Math.max(view.scale * factor, LEAST_ZOOM), GREATEST_ZOOM);
  return {
    x: view.x + at.x / view.scale - at.x / scale,
    y: view.y + at.y / view.scale - at.y / scale,
    scale,
  };
}

/** Move the view by CSS pixels. */
export function pannedBy(view: StageView, x: number, y: number): StageView {
  return { ...view, x: view.x - x / view.scale, y: view.y - y / view.scale };
}

/** Map a position of the stage to the canvas. */
export function stageToCanvas(view: StageView, at: Point): Point {
  return { x: view.x + at.x / view.scale, y: view.y + at.y / view.scale };
}

/** Map a position of the canvas to the stage. */
export function canvasToStage(view: StageView, at: Point): Point {
  return { x: (at.x - view.x) * view.scale, y: (at.y - view.y) * view.scale };
}

/**
 * Return the part of the canvas that the stage shows, on whole device pixels.
 * `detail` below 1 asks for fewer pixels while something moves; more than the service
 * gives are never asked for: what comes is enlarged then.
 */
export function frameArea(
  view: StageView,
  canvas: Canvas,
  stage: Size,
  pixelRatio: number,
  detail: number,
): FrameArea | null {
  const step = view.scale * pixelRatio;
  // The canvas begins on a whole pixel, so that its edge is never blurred.
  const originX = Math.round(-view.x * step);
  const originY = Math.round(-view.y * step);
  const left = Math.max(originX, 0);
  const top = Math.max(originY, 0);
  const right = Math.min(originX + Math.round(canvas.width * step), stage.width * pixelRatio);
  const bottom = Math.min(originY + Math.round(canvas.height * step), stage.height * pixelRatio);
  const width = Math.floor(right - left);
  const height = Math.floor(bottom - top);
  if (width < 1 || height < 1) return null;
  const asked = Math.min(detail, mostDetail(width, height, step));
  return {
    left,
    top,
    width,
    height,
    request: {
      x: (left - originX) / step,
      y: (top - originY) / step,
      width: Math.max(1, Math.round(width * asked)),
      height: Math.max(1, Math.round(height * asked)),
      scale: step * asked,
    },
  };
}

/** Return how much of the detail of a large or dense screen is ever asked for. */
function mostDetail(width: number, height: number, step: number): number {
  return Math.min(
    FRAME_VIEW.width.maximum / width,
    FRAME_VIEW.height.maximum / height,
    FRAME_VIEW.scale.maximum / step,
  );
}
