/** A rough stroke while the hand goes on: points so far apart, and not too many of them. */

import { ROUGH_STROKE } from "@generated/limits";
import type { Point } from "@/model/points";

/** Pixels of the stage between two points. */
const STEP = 6;
const MOST_POINTS = ROUGH_STROKE.points.maxItems;

/** Return a stroke with one more point, unless that lies too near to the last. */
export function goneOn(stroke: readonly Point[], to: Point, scale: number): readonly Point[] {
  const last = stroke.at(-1);
  const isNear = last && Math.hypot(last.x - to.x, last.y - to.y) < STEP / scale;
  return isNear ? stroke : [...stroke, to];
}

/** Return as many of a stroke's points as the service takes. */
export function thinned(stroke: readonly Point[]): readonly Point[] {
  const every = Math.ceil(stroke.length / MOST_POINTS);
  return stroke.filter((_, at) => at % every === 0);
}
