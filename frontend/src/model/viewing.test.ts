import { FRAME_VIEW } from "@generated/limits";
import { expect, test } from "vitest";
import {
  canvasToStage,
  fitView,
  frameArea,
  GREATEST_ZOOM,
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

const SCREENS = [2560, 3840, 5120].flatMap((width) =>
  [1, 1.5, 2, 3].map((ratio) => [width, ratio] as const),
);

test.each(SCREENS)(
  "on a screen of %d pixels at ratio %d all that is asked for is given",
  (width, ratio) => {
    const large = { width, height: Math.round((width * 9) / 16) };
    const sheet = { ...canvas, width: 12_000, height: 8000 };

    for (const view of [fitView(sheet, large), { x: 3000, y: 900, scale: GREATEST_ZOOM }]) {
      const area = frameArea(view, sheet, large, ratio, 1);
      const { request } = area ?? { request: { width: 0, height: 0, scale: 0 } };

      expect(request.width).toBeGreaterThan(2000);
      expect(request.width).toBeLessThanOrEqual(FRAME_VIEW.width.maximum);
      expect(request.height).toBeLessThanOrEqual(FRAME_VIEW.height.maximum);
      expect(request.scale).toBeLessThanOrEqual(FRAME_VIEW.scale.maximum);
      // However few pixels come, they cover what the stage shows.
      const stretch = (view.scale * ratio) / request.scale;
      expect(Math.abs(request.width * stretch - (area?.width ?? 0))).toBeLessThanOrEqual(stretch);
    }
  },
);

test("no more pixels of the canvas are asked for than the service gives, at any zoom", () => {
  const view = { x: 10, y: 10, scale: GREATEST_ZOOM };

  const area = frameArea(view, canvas, { width: 300, height: 200 }, 3, 1);

  expect(area?.request.scale).toBe(FRAME_VIEW.scale.maximum);
});
