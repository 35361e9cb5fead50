import { expect, test } from "vitest";
import { leaning, pulledSheet, resized, straightened } from "@/model/canvas";
import { isInside, layersInRing, scalingAbout, toggled, turningAbout } from "@/model/choosing";
import type { Layer, PhotoLayer } from "@/model/composite";
import {
  cropOf,
  framedInRatio,
  pulledFrame,
  shiftedInside,
  uncropped,
  withCrop,
} from "@/model/cropping";
import { cornersOf, liesOn, planeToCanvas, toCanvas, toSource } from "@/model/geometry";
import { carriedPlacement } from "@/model/nesting";
import { FREELY, ITS_OWN, proportionOf, THE_SHEETS } from "@/model/proportions";
import { bentAt, cornersAt, flatBend, regridded, unwarped, warped } from "@/model/shaping";
import { boundsOf, snapped } from "@/model/snapping";
import { sampleComposite, sampleLayer, samplePlacement } from "@/testing/samples";

const photo = (changes = {}): PhotoLayer =>
  sampleLayer("a", {
    width: 200,
    height: 100,
    placement: samplePlacement({ x: 300, y: 200, ...changes }),
  });

const near = (one: object, other: object) => {
  for (const [name, value] of Object.entries(other)) {
    expect((one as Record<string, number>)[name], name).toBeCloseTo(value as number, 6);
  }
};

test("pulling a side leaves the photo where it lies and moves the frame's middle", () => {
  const layer = photo({ scale_x: 2, scale_y: 2, turn: 90 });
  const before = toCanvas(layer, { x: 20, y: 30 });
  // The right side lies below, turned; half of it is pulled away.
  const placement = pulledFrame(
    layer,
    "crop-right",
    planeToCanvas(layer, { x: 0.5, y: 0.5 }),
    null,
  );

  const after = { ...layer, placement };

  expect(placement.crop).toMatchObject({ width: 100, height: 100, x: 50, y: 50 });
  near(toCanvas(after, { x: 20, y: 30 }), before);
});

test("a frame is never pulled beyond the photo, and never to nothing", () => {
  const layer = photo();

  const wide = pulledFrame(layer, "crop-left", { x: -1000, y: 200 }, null);
  const thin = pulledFrame(layer, "crop-left", { x: 1000, y: 200 }, null);

  expect(wide.crop?.width).toBe(200);
  expect(thin.crop?.width).toBeCloseTo(8);
});

test("in proportion the frame keeps its ratio, from a corner and from a side", () => {
  const layer = photo();

  const corner = pulledFrame(layer, "crop-bottom-right", { x: 280, y: 240 }, 1);
  const side = pulledFrame(layer, "crop-right", { x: 250, y: 200 }, 1);

  expect(corner.crop?.width).toBeCloseTo(corner.crop?.height ?? 0);
  expect(side.crop).toMatchObject({ width: 50, height: 50, y: 50 });
  expect(framedInRatio(layer, 1).crop).toMatchObject({ width: 100, height: 100 });
});

test("the photo moves in its frame with the hand, and never leaves a part of it empty", () => {
  const layer = photo();
  const framed = {
    ...layer,
    placement: pulledFrame(layer, "crop-right", { x: 300, y: 200 }, null),
  };

  const moved = shiftedInside(framed, { x: 0, y: 0 }, { x: -30, y: 0 });
  const far = shiftedInside(framed, { x: 0, y: 0 }, { x: -3000, y: 500 });

  expect(moved.crop).toMatchObject({ x: 80, y: 50 });
  expect(far.crop).toMatchObject({ x: 150, y: 50 });
  expect([far.x, far.y]).toEqual([framed.placement.x, framed.placement.y]);
});

test("a photo that is turned in its frame is enlarged until it fills that", () => {
  const placement = withCrop(photo(), { ...cropOf(photo()), turn: 90 });

  expect(placement.crop?.zoom).toBeCloseTo(2);
});

test("taking a crop back shows the whole photo where its part lay", () => {
  const layer = photo({ turn: 30, flipped: true });
  const crop = { ...cropOf(layer), width: 80, height: 60, zoom: 1.5, turn: 20, x: 70, y: 40 };
  const framed = { ...layer, placement: { ...layer.placement, crop } };

  const whole = { ...layer, placement: uncropped(framed) };

  near(toCanvas(whole, { x: 10, y: 90 }), toCanvas(framed, { x: 10, y: 90 }));
});

test("corners and bends map there and back, and folded corners are none", () => {
  const corners = cornersAt([
    { x: 0.1, y: 0 },
    { x: 1, y: 0.2 },
    { x: 0.9, y: 1 },
    { x: 0, y: 0.8 },
  ]);
  const bend = {
    ...flatBend(3, 3),
    moves: flatBend(3, 3).moves.map((move, place) => (place === 1 ? ([0, 0.1] as const) : move)),
  };
  const placement = samplePlacement({ corners, bend });
  const layer = photo({ corners, bend });

  near(unwarped(placement, warped(placement, { x: 0.3, y: 0.7 })), { x: 0.3, y: 0.7 });
  near(toSource(layer, toCanvas(layer, { x: 30, y: 60 })), { x: 30, y: 60 });
  near(bentAt(bend, { x: 0.5, y: 0 }), { x: 0.5, y: 0.1 });
  near(bentAt(regridded(bend, 5, 4), { x: 0.5, y: 0 }), { x: 0.5, y: 0.1 });
  expect(
    cornersAt([
      { x: 1, y: 1 },
      { x: 1, y: 0 },
      { x: 1, y: 1 },
      { x: 0, y: 1 },
    ]),
  ).toBeNull();
});

test("a press lies on a layer only within its frame", () => {
  const round = photo({ crop: { ...cropOf(photo()), shape: "ellipse" } });
  const [corner] = cornersOf(round);

  expect(liesOn(round, { x: 300, y: 200 })).toBe(true);
  expect(liesOn(round, { x: corner.x + 3, y: corner.y + 3 })).toBe(false);
});

test("a moved layer comes to rest on edges, middles and equal gaps within reach", () => {
  const canvas = { width: 1000, height: 800 };
  const at = (left: number, top: number) => ({ left, top, right: left + 100, bottom: top + 50 });
  const others = [at(100, 300), at(300, 300)];

  expect(snapped(at(104, 500), others, canvas, 6)).toMatchObject({ x: -4, y: 0 });
  expect(snapped(at(448, 372), others, canvas, 6)).toMatchObject({ x: 2, y: 3 });
  expect(snapped(at(507, 300), others, canvas, 8)).toMatchObject({ x: -7 });
  expect(snapped(at(520, 500), others, canvas, 6)).toMatchObject({ x: 0, y: 0, ticks: [] });
});

test("equal gaps and distances to neighbours are shown in words of pixels", () => {
  const at = (left: number) => ({ left, top: 0, right: left + 100, bottom: 50 });

  const { gaps } = snapped(at(500), [at(100), at(300)], { width: 2000, height: 999 }, 1);

  expect(gaps.filter(({ isEqual }) => isEqual).map(({ from, to }) => to - from)).toEqual([
    100, 100,
  ]);
});

test("several are scaled and turned about a point that stays", () => {
  const placement = samplePlacement({ x: 10, y: 0 });

  near(carriedPlacement(placement, scalingAbout({ x: 0, y: 0 }, 3)), { x: 30, y: 0, scale_x: 3 });
  near(carriedPlacement(placement, turningAbout({ x: 0, y: 0 }, 90)), { x: 0, y: 10, turn: 90 });
});

test("a ring takes what lies in it for the greater part", () => {
  const ring = [
    { x: 150, y: 100 },
    { x: 450, y: 100 },
    { x: 450, y: 300 },
    { x: 150, y: 300 },
  ];
  const far = sampleLayer("b", { placement: samplePlacement({ x: 700, y: 200 }) });
  const locked = { ...photo(), id: "c", locked: true };

  expect(layersInRing([photo(), far, locked], ring).map(({ id }) => id)).toEqual(["a"]);
  expect(isInside(ring, { x: 10, y: 200 })).toBe(false);
});

const WASH = { ...photo(), id: "w", kind: "color", color: "#204060" } as unknown as Layer;

test("one more is chosen, with the open one first, and let go again; washes never are", () => {
  const composite = sampleComposite(photo(), { ...photo(), id: "b" }, WASH);

  expect(toggled(composite, [], "a", "b")).toEqual(["a", "b"]);
  expect(toggled(composite, ["a", "b"], "a", "b")).toEqual(["a"]);
  expect(toggled(composite, ["a"], null, "a")).toEqual([]);
  expect(toggled(composite, [], "w", "b")).toEqual(["b"]);
  expect(toggled(composite, ["gone", "a"], null, "b")).toEqual(["a", "b"]);
});

test("a proportion is that of the photo, of the sheet, fixed, or none", () => {
  const [photoSize, sheet] = [
    { width: 300, height: 100 },
    { width: 200, height: 100 },
  ];

  expect(
    [ITS_OWN, THE_SHEETS, "3 : 2", FREELY].map((name) => proportionOf(name, photoSize, sheet)),
  ).toEqual([3, 2, 1.5, null]);
});

const canvas = { width: 400, height: 200, ppi: 240, background: null };

test("a sheet is pulled by a side, in proportion too, and never beyond its limits", () => {
  expect(pulledSheet(canvas, "crop-left", { x: -50, y: 0 }, null)).toMatchObject({
    canvas: { width: 450, height: 200 },
    shift_x: 50,
  });
  expect(pulledSheet(canvas, "crop-bottom-right", { x: 200, y: 150 }, 1)).toMatchObject({
    canvas: { width: 200, height: 200 },
  });
  expect(pulledSheet(canvas, "crop-right", { x: 1e9, y: 0 }, null).canvas.width).toBe(30000);
  expect(pulledSheet(canvas, "crop-right", { x: -5, y: 0 }, null).canvas.width).toBe(1);
});

test("a canvas of another shape is filled, or holds all of what lay on it", () => {
  expect(resized(canvas, { width: 400, height: 400 }, "fill")).toMatchObject({
    scale: 2,
    shift_x: -200,
  });
  expect(resized(canvas, { width: 400, height: 400 }, "fit")).toMatchObject({
    scale: 1,
    shift_y: 100,
  });
  expect(resized(canvas, { width: 500, height: 200 }, "stay", { x: 1, y: 0 })).toMatchObject({
    shift_x: 100,
  });
});

test("a line becomes level or upright, whichever is nearer, and no corner is left empty", () => {
  expect(leaning({ x: 0, y: 0 }, { x: 100, y: 10 })).toBeCloseTo(-5.71, 2);
  expect(leaning({ x: 0, y: 0 }, { x: 10, y: -100 })).toBeCloseTo(-5.71, 2);
  expect(leaning({ x: 0, y: 0 }, { x: -100, y: 0 })).toBe(0);

  const { canvas: after, turn = 0, shift_x = 0, shift_y = 0 } = straightened(canvas, 10);
  const angle = (turn * Math.PI) / 180;
  const back = (x: number, y: number) => {
    const [dx, dy] = [x - shift_x, y - shift_y];
    return {
      x: dx * Math.cos(angle) + dy * Math.sin(angle),
      y: -dx * Math.sin(angle) + dy * Math.cos(angle),
    };
  };
  for (const [x, y] of [
    [0, 0],
    [after.width, 0],
    [after.width, after.height],
    [0, after.height],
  ] as const) {
    const at = back(x, y);
    expect(at.x).toBeGreaterThan(-1);
    expect(at.x).toBeLessThan(401);
    expect(at.y).toBeGreaterThan(-1);
    expect(at.y).toBeLessThan(201);
  }
});

test("bounds hold what is bent too", () => {
  const bend = {
    ...flatBend(3, 3),
    moves: flatBend(3, 3).moves.map((move, place) => (place === 1 ? ([0, -0.5] as const) : move)),
  };

  expect(boundsOf(photo({ bend })).top).toBeCloseTo(100);
});
