import { expect, test } from "vitest";
import {
  draggedGradient,
  exchanged,
  firstGradient,
  gripsOf,
  runningAcross,
} from "@/model/gradients";

const canvas = { width: 300, height: 200, ppi: 240, background: null };
const first = firstGradient(canvas, "#ff8000");

test("a new gradient runs down the whole canvas, to clear", () => {
  const { start, end } = gripsOf(first);

  expect(start).toEqual({ x: expect.closeTo(150), y: 0 });
  expect(end).toEqual({ x: expect.closeTo(150), y: 200 });
  expect(first.end.opacity).toBe(0);
});

test("a dragged end moves alone", () => {
  const dragged = draggedGradient(first, "end", { x: 250, y: 100 });

  const { start, end } = gripsOf(dragged);
  expect(start.x).toBeCloseTo(150, 0);
  expect(start.y).toBeCloseTo(0, 0);
  expect(end.x).toBeCloseTo(250, 0);
  expect(end.y).toBeCloseTo(100, 0);
});

test("a round gradient's end sets how far it reaches", () => {
  const round = { ...first, shape: "round" as const };

  expect(draggedGradient(round, "end", { x: 150, y: 130 })).toMatchObject({ x: 150, length: 30 });
  expect(draggedGradient(round, "start", { x: 20, y: 30 })).toMatchObject({ x: 20, y: 30 });
});

test("exchanged ends keep the way it runs", () => {
  expect(exchanged(first)).toMatchObject({ angle: 90, start: first.end, end: first.start });
});

test("across the canvas a gradient begins and ends at its corners", () => {
  const across = runningAcross(first, { ...canvas, width: 200 }, 45);

  const { start } = gripsOf(across);
  expect(start.x).toBeCloseTo(0, 1);
  expect(start.y).toBeCloseTo(0, 1);
});
