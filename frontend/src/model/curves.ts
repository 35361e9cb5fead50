/**
 * Curves through points, as the core leads them: only to draw the line, no colour
 * follows from it. Fritsch and Carlson 1980, as `core/tone/splines.py`.
 */

import type { CurvePoints } from "@/model/tones";

export type CurvePoint = CurvePoints[number];

const CIRCLE = 3;
const LEAST_GAP = 1 / 255;

/** Return the curve's heights at even steps from 0 to 1. */
export function curveHeights(points: CurvePoints, steps: number): readonly number[] {
  const slopes = slopesOf(points);
  return Array.from({ length: steps + 1 }, (_, step) => heightAt(points, slopes, step / steps));
}

/** Return the curve's height at one place. */
export function heightOf(points: CurvePoints, x: number): number {
  return heightAt(points, slopesOf(points), x);
}

function heightAt(points: CurvePoints, slopes: readonly number[], x: number): number {
  const next = points.findIndex(([at]) => at > x);
  const [firstX, firstY] = points[0] ?? [0, 0];
  if (next === 0 || x <= firstX) return firstY;
  if (next === -1) return points.at(-1)?.[1] ?? 1;
  const [x0, y0] = points[next - 1] ?? [0, 0];
  const [x1, y1] = points[next] ?? [1, 1];
  const length = x1 - x0;
  const u = (x - x0) / length;
  const [from, to] = [(slopes[next - 1] ?? 0) * length, (slopes[next] ?? 0) * length];
  const rise = y1 - y0;
  return y0 + u * (from + u * (3 * rise - 2 * from - to + u * (from + to - 2 * rise)));
}

function slopesOf(points: CurvePoints): readonly number[] {
  const rises = points.slice(1).map(([x, y], place) => {
    const [x0, y0] = points[place] ?? [0, 0];
    return (y - y0) / (x - x0);
  });
  const slopes = points.map((_, place) => {
    const before = rises[place - 1] ?? rises[0] ?? 0;
    const after = rises[place] ?? rises.at(-1) ?? 0;
    const isInner = place > 0 && place < points.length - 1;
    return isInner && before * after <= 0 ? 0 : (before + after) / 2;
  });
  rises.forEach((rise, place) => {
    const [from, to] = [slopes[place] ?? 0, slopes[place + 1] ?? 0];
    const size = rise === 0 ? 0 : Math.hypot(from / rise, to / rise);
    const scale = rise === 0 ? 0 : size > CIRCLE ? CIRCLE / size : 1;
    slopes[place] = from * scale;
    slopes[place + 1] = to * scale;
  });
  return slopes;
}

/** Return the points with one more; the same where there is no room for it. */
export function withPoint(points: CurvePoints, [x, y]: CurvePoint, most: number): CurvePoints {
  if (points.length >= most || points.some(([at]) => Math.abs(at - x) < LEAST_GAP)) return points;
  return [...points, [x, y] as const].toSorted(([a], [b]) => a - b);
}

/** Return the points with one elsewhere: it stays between its neighbours. */
export function withMovedPoint(
  points: CurvePoints,
  place: number,
  [x, y]: CurvePoint,
): CurvePoints {
  const low = place === 0 ? 0 : (points[place - 1]?.[0] ?? 0) + LEAST_GAP;
  const high = place === points.length - 1 ? 1 : (points[place + 1]?.[0] ?? 1) - LEAST_GAP;
  const held = (value: number, least: number, most: number) =>
    Math.min(Math.max(value, least), most);
  return points.with(place, [held(x, low, high), held(y, 0, 1)]);
}

/** Return the points without one; the two ends stay. */
export function withoutPoint(points: CurvePoints, place: number): CurvePoints {
  if (place === 0 || place === points.length - 1) return points;
  return points.filter((_, one) => one !== place);
}

/** Return the point that lies at a place across, if there is one. */
export function pointNear(points: CurvePoints, x: number, within: number): number {
  return points.findIndex(([at]) => Math.abs(at - x) <= within);
}
