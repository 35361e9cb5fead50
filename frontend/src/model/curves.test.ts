import { expect, test } from "vitest";
import { curveHeights, pointNear, withMovedPoint, withoutPoint, withPoint } from "@/model/curves";
import type { CurvePoints } from "@/model/tones";

/** As the core's `monotone` gives them at eighths. */
const LED: readonly (readonly [CurvePoints, readonly number[]])[] = [
  [
    [
      [0, 0.1],
      [0.2, 0.15],
      [0.25, 0.6],
      [0.6, 0.65],
      [1, 0.3],
    ],
    [0.1, 0.112951, 0.6, 0.636716, 0.648834, 0.647351, 0.57002, 0.432874, 0.3],
  ],
  [
    [
      [0.1, 0],
      [0.5, 0.8],
      [0.9, 1],
    ],
    [0, 0.051099, 0.326367, 0.594312, 0.8, 0.906812, 0.951367, 0.988599, 1],
  ],
  [
    [
      [0, 1],
      [1, 0],
    ],
    [1, 0.875, 0.75, 0.625, 0.5, 0.375, 0.25, 0.125, 0],
  ],
];

test.each(LED)("draws the curve that colours are led along", (points, heights) => {
  curveHeights(points, 8).forEach((height, step) => {
    expect(height).toBeCloseTo(heights[step] ?? Number.NaN, 5);
  });
});

const THREE: CurvePoints = [
  [0, 0],
  [0.5, 0.6],
  [1, 1],
];

test("a new point finds its place, unless one stands there or there are enough", () => {
  expect(withPoint(THREE, [0.25, 0.4], 16)).toEqual([
    [0, 0],
    [0.25, 0.4],
    [0.5, 0.6],
    [1, 1],
  ]);
  expect(withPoint(THREE, [0.501, 0.4], 16)).toBe(THREE);
  expect(withPoint(THREE, [0.25, 0.4], 3)).toBe(THREE);
});

test("a point stays between its neighbours and within the box", () => {
  expect(withMovedPoint(THREE, 1, [-3, 7])[1]).toEqual([1 / 255, 1]);
  expect(withMovedPoint(THREE, 1, [2, -1])[1]).toEqual([1 - 1 / 255, 0]);
  expect(withMovedPoint(THREE, 0, [0.2, 0.1])[0]).toEqual([0.2, 0.1]);
});

test("the two ends are never taken away", () => {
  expect(withoutPoint(THREE, 0)).toBe(THREE);
  expect(withoutPoint(THREE, 2)).toBe(THREE);
  expect(withoutPoint(THREE, 1)).toHaveLength(2);
});

test("a point that lies near a tone is found", () => {
  expect(pointNear(THREE, 0.52, 0.03)).toBe(1);
  expect(pointNear(THREE, 0.6, 0.03)).toBe(-1);
});
