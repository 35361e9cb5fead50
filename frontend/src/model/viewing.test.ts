import { expect, test } from "vitest";
import {
  canvasToStage,
  fitView,
  frameArea,
  pannedBy,
  stageToCanvas,
  zoomedAt,
} from "@/model/viewing";

const canvas = { width: 4000, height: 3000, ppi: 240, background: null };
const stage = { width: 856, height: 656 };

test("the whole canvas fits the stage with a margin on every side", () => {
  const view = fitView(canvas, stage);

  expect(view.scale).toBeCloseTo(0.2);
  expect(canvasToStage(view, { x: 0, y: 0 })).toEqual({ x: 28, y: 28 });
});

test("a small canvas is not enlarged to fit", () => {
  expect(fitView({ ...canvas, width: 100, height: 80 }, stage).scale).toBe(1);
});

test("zooming leaves what lies under the pointer where it is", () => {
  const view = fitView(canvas, stage);
  const pointer = { x: 300, y: 200 };
  const before = stageToCanvas(view, pointer);

  const after = stageToCanvas(zoomedAt(view, pointer, 3.7), pointer);

  expect(after.x).toBeCloseTo(before.x);
  expect(after.y).toBeCloseTo(before.y);
});

test("panning moves the canvas by as much as the hand", () => {
  const view = fitView(canvas, stage);

  const at = canvasToStage(pannedBy(view, 12, -7), { x: 0, y: 0 });

  expect(at.x).toBeCloseTo(40);
  expect(at.y).toBeCloseTo(21);
});

test("a frame asks for no more than the stage shows", () => {
  const view = { x: 1000, y: 500, scale: 2 };

  const area = frameArea(view, canvas, stage, 1, 1);

  expect(area).toMatchObject({ left: 0, top: 0, width: 856, height: 656 });
  expect(area?.request).toMatchObject({ x: 1000, y: 500, scale: 2 });
});

test("a frame at half detail covers the same place with a quarter of the pixels", () => {
  const view = fitView(canvas, stage);

  const whole = frameArea(view, canvas, stage, 2, 1);
  const half = frameArea(view, canvas, stage, 2, 0.5);

  expect(half).toMatchObject({ left: whole?.left, width: whole?.width });
  expect(half?.request.width).toBe((whole?.request.width ?? 0) / 2);
});

test("a canvas outside the stage needs no frame", () => {
  expect(frameArea({ x: 9000, y: 0, scale: 1 }, canvas, stage, 1, 1)).toBeNull();
});
