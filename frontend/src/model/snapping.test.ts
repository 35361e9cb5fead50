import { expect, test } from "vitest";
import type { PhotoLayer } from "@/model/composite";
import { boundsBeside, snapped } from "@/model/snapping";
import { sampleLayer } from "@/testing/samples";

const box = (left: number, top: number, width: number, height: number) => ({
  left,
  top,
  right: left + width,
  bottom: top + height,
});
const SHEET = { width: 1000, height: 800 };
const FAR = 450;

const moves = (moving: ReturnType<typeof box>, ...others: ReturnType<typeof box>[]) => {
  const { x, y } = snapped(moving, others, SHEET, 8);
  return [x, y];
};

test("edges and middles come to rest on those of others and of the sheet", () => {
  expect(moves(box(5, FAR, 90, 33))).toEqual([-5, 0]);
  expect(moves(box(458, 370, 90, 70))).toEqual([-3, -5]);
  expect(moves(box(903, 723, 93, 73))).toEqual([4, 4]);
  expect(moves(box(207, 613, 50, 50), box(200, 100, 140, 90))).toEqual([-7, 0]);
  expect(moves(box(237, 613, 60, 50), box(200, 100, 140, 90))).toEqual([3, 0]);
});

test("the nearest of several counts, on whichever side", () => {
  const others = [box(200, 100, 150, 90), box(209, 300, 150, 60)];

  expect(moves(box(203, 613, 40, 50), ...others)).toEqual([-3, 0]);
  expect(moves(box(207, 613, 40, 50), ...others)).toEqual([2, 0]);
});

test("nothing beyond the reach is rested on", () => {
  expect(moves(box(9, FAR, 90, 33))).toEqual([0, 0]);
  expect(moves(box(8, FAR, 90, 33))).toEqual([-8, 0]);
});

test("gaps as wide as others in the row are rested on: after, before and between", () => {
  const row = [box(100, 200, 60, 50), box(190, 200, 70, 50)];

  expect(moves(box(292, 203, 40, 41), ...row)[0]).toBe(-2);
  expect(moves(box(33, 203, 40, 41), ...row)[0]).toBe(-3);
  const wide = [box(100, 200, 60, 50), box(300, 200, 70, 50)];
  expect(moves(box(212, 203, 42, 41), ...wide)[0]).toBe(-3);
});

test("those that lie over one another, or in another row, leave no gaps", () => {
  const over = [box(100, 200, 60, 50), box(130, 200, 70, 50)];
  const beside = [box(100, 200, 60, 50), box(190, 200, 70, 50)];

  expect(moves(box(236, 203, 41, 41), ...over)[0]).toBe(0);
  expect(moves(box(178, 203, 97, 41), ...over)[0]).toBe(0);
  expect(moves(box(292, 503, 41, 41), ...beside)[0]).toBe(0);
});

test("gaps are told with those as wide, and called equal where there are two", () => {
  const row = [box(100, 200, 60, 50), box(190, 200, 70, 50)];
  const { gaps } = snapped(box(290, 203, 40, 41), row, SHEET, 8);
  const lone = snapped(box(300, 203, 40, 41), row.slice(1), SHEET, 0).gaps;

  expect(gaps.filter(({ axis }) => axis === "x")).toMatchObject([
    { from: 260, to: 290, isEqual: true },
    { from: 160, to: 190, isEqual: true },
  ]);
  expect(lone.filter(({ axis }) => axis === "x")).toMatchObject([
    { from: 260, to: 300, isEqual: false },
  ]);
});

test("hidden layers, and those that move, are not rested on", () => {
  const layers = [
    sampleLayer("a"),
    { ...sampleLayer("b"), visible: false } as PhotoLayer,
    sampleLayer("c"),
  ];

  expect(boundsBeside(layers, new Set(["c"]))).toHaveLength(1);
});
