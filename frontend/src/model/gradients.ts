/** Gradients by their ends: what the hand drags on the stage. */

import type { Canvas, Gradient } from "@/model/composite";
import type { Point } from "@/model/points";

export type GradientGrip = "start" | "middle" | "end";

const RADIANS = Math.PI / 180;

/** Return where the grips of a gradient lie; a round one starts in its middle. */
export function gripsOf(gradient: Gradient): Readonly<Record<GradientGrip, Point>> {
  const { x, y, length, angle } = gradient;
  const ahead = { x: Math.cos(angle * RADIANS), y: Math.sin(angle * RADIANS) };
  const at = (way: number) => ({ x: x + ahead.x * way, y: y + ahead.y * way });
  return gradient.shape === "round"
    ? { start: at(0), middle: at(0), end: at(length) }
    : { start: at(-length / 2), middle: at(0), end: at(length / 2) };
}

/** Return the gradient with one of its grips dragged elsewhere; the other end stays. */
export function draggedGradient(gradient: Gradient, grip: GradientGrip, to: Point): Gradient {
  if (grip === "middle") return { ...gradient, ...rounded(to) };
  const grips = gripsOf(gradient);
  if (gradient.shape === "round") {
    return grip === "start"
      ? { ...gradient, ...rounded(to) }
      : { ...gradient, ...lineBetween(grips.start, to) };
  }
  const [start, end] = grip === "start" ? [to, grips.end] : [grips.start, to];
  const middle = { x: (start.x + end.x) / 2, y: (start.y + end.y) / 2 };
  return { ...gradient, ...rounded(middle), ...lineBetween(start, end) };
}

/** Return the gradient with its ends exchanged. */
export function exchanged(gradient: Gradient): Gradient {
  return { ...gradient, start: gradient.end, end: gradient.start };
}

/** Return a gradient across a canvas, from a colour to clear. */
export function firstGradient(canvas: Canvas, color: string): Gradient {
  return {
    shape: "linear",
    x: canvas.width / 2,
    y: canvas.height / 2,
    length: canvas.height,
    angle: 90,
    start: { color, opacity: 1 },
    end: { color, opacity: 0 },
  };
}

/** Return a gradient that runs in a direction across the whole canvas. */
export function runningAcross(gradient: Gradient, canvas: Canvas, angle: number): Gradient {
  const across = Math.abs(Math.cos(angle * RADIANS)) * canvas.width;
  const down = Math.abs(Math.sin(angle * RADIANS)) * canvas.height;
  const middle = { x: canvas.width / 2, y: canvas.height / 2 };
  // A hair of float error would make two gradients of what is one.
  const length = Math.round((across + down) * 10) / 10;
  return { ...gradient, ...middle, shape: "linear", length, angle };
}

/** Return a gradient that runs from the middle of the canvas to its nearer edges. */
export function runningOutwards(gradient: Gradient, canvas: Canvas): Gradient {
  return {
    ...gradient,
    shape: "round",
    x: canvas.width / 2,
    y: canvas.height / 2,
    length: Math.max(canvas.width, canvas.height) / 2,
  };
}

function lineBetween(start: Point, end: Point): { length: number; angle: number } {
  return {
    length: Math.max(1, Math.hypot(end.x - start.x, end.y - start.y)),
    angle: Math.round((Math.atan2(end.y - start.y, end.x - start.x) / RADIANS) * 10) / 10,
  };
}

function rounded(point: Point): Point {
  return { x: Math.round(point.x * 10) / 10, y: Math.round(point.y * 10) / 10 };
}
