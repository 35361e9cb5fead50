import { describe, expect, it } from "vitest";
import { type Asked, basisOf, partToAsk, requestOf } from "@/features/picture/patching";
import type { Shown } from "@/features/picture/shown";
import type { Edit } from "@/model/composite";
import type { Point } from "@/model/points";
import { sampleComposite } from "@/testing/samples";

const edit: Edit = { kind: "show_layer", layer_id: "moths", visible: true };
const stroke = {};
const area = {
  ...{ left: 0, top: 0, width: 1000, height: 800 },
  request: { x: 100, y: 50, width: 500, height: 400, scale: 0.5 },
};
const paths = (count: number): Point[] =>
  Array.from({ length: count }, (_, step) => ({ x: 420 + 10 * step, y: 350 }));

function shown(points: readonly Point[], changes: Partial<Shown> = {}): Shown {
  return {
    projectId: "project",
    revision: "first",
    unsaved: [edit],
    canvas: CANVAS,
    view: VIEW,
    stage: STAGE,
    pixelRatio: 1,
    backing: { kind: "color", color: "#ffffff" },
    moving: true,
    hatched: "moths",
    maskOf: null,
    maskSeen: "whole",
    printed: false,
    tone: null,
    trace: { stroke, points, reach: 20, edit },
    ...changes,
  };
}

const CANVAS = sampleComposite().canvas;
const VIEW = { x: 0, y: 0, scale: 1 };
const STAGE = { width: 1000, height: 800 };

const asked = (count: number): Asked => ({
  basis: basisOf(shown([])),
  stroke,
  count,
  area,
});

describe("partToAsk", () => {
  it("holds what the new points reach, on a grid", () => {
    // From x 500 - 20 to 520 + 20, that is 190 - 1 to 220 + 1 of the frame's pixels.
    const part = partToAsk(asked(10), shown(paths(11)), area);

    expect(part).toEqual({ x: 128, y: 128, width: 128, height: 64 });
    expect(part && requestOf(area, part)).toEqual({
      ...{ x: 100 + 256, y: 50 + 256, width: 128, height: 64, scale: 0.5 },
    });
  });

  it("begins with the stroke where another one was shown before", () => {
    const before = { ...asked(10), stroke: {} };

    expect(partToAsk(before, shown(paths(11)), area)?.x).toBe(128);
    expect(partToAsk(before, shown(paths(30)), area)?.width).toBe(192);
  });

  it("ends at the frame's edges", () => {
    expect(partToAsk(asked(0), shown([{ x: 1100, y: 840 }]), area)).toEqual({
      ...{ x: 448, y: 384, width: 52, height: 16 },
    });
  });

  it.each<[string, Asked | null, Shown]>([
    ["nothing was asked for", null, shown(paths(2))],
    ["no stroke is under way", asked(1), shown(paths(2), { trace: null })],
    ["another state lies beneath", asked(1), shown(paths(2), { revision: "second" })],
    ["another view is shown", asked(1), shown(paths(2), { view: { ...VIEW } })],
    ["another edit waits", asked(1), shown(paths(2), { unsaved: [{ ...edit }, edit] })],
    [
      "most of it has changed",
      asked(1),
      shown([
        { x: 110, y: 60 },
        { x: 1090, y: 840 },
      ]),
    ],
    ["nothing of it is in sight", asked(1), shown([{ x: 9000, y: 60 }])],
  ])("is the whole frame where %s", (_, before, now) => {
    expect(partToAsk(before, now, area)).toBeNull();
  });

  it("is the whole frame where frames have another size now", () => {
    const smaller = { ...area, request: { ...area.request, scale: 0.25 } };

    expect(partToAsk(asked(10), shown(paths(11)), smaller)).toBeNull();
  });
});
