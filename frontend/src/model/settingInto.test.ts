import { expect, test } from "vitest";
import { cornersOf } from "@/model/geometry";
import { nearestRest, setInto } from "@/model/shaping";
import { sampleLayer } from "@/testing/samples";

const QUAD = [
  { x: 120, y: 40 },
  { x: 330, y: 70 },
  { x: 310, y: 260 },
  { x: 90, y: 290 },
];

test.each([
  [false, false],
  [true, false],
  [false, true],
  [true, true],
])("mirrored %s, upended %s: the corners lie on the four points", (flipped, upended) => {
  const layer = sampleLayer("a");
  const before = { ...layer.placement, flipped, upended, turn: 31, scale_x: 3 };

  const placement = setInto(before, layer, QUAD);

  expect(placement).toMatchObject({ flipped, upended, turn: 0, bend: null });
  const corners = placement ? cornersOf({ ...layer, placement }) : [];
  const said = corners.map(({ x, y }) => `${x.toFixed(6)} ${y.toFixed(6)}`).sort();
  expect(said).toEqual(QUAD.map(({ x, y }) => `${x.toFixed(6)} ${y.toFixed(6)}`).sort());
  // What is shown upright stays upright: its own top left lies where it is seen.
  const seen = flipped ? (upended ? 2 : 1) : upended ? 3 : 0;
  expect(corners[0]?.x).toBeCloseTo(QUAD[seen]?.x ?? Number.NaN);
});

test("a cropped photo is set in by its frame", () => {
  const layer = sampleLayer("a");
  const crop = { x: 20, y: 20, width: 10, height: 30, turn: 0, zoom: 1, corner: 0 };
  const before = { ...layer.placement, crop: { ...crop, shape: "rectangle" as const } };

  const placement = setInto(before, layer, QUAD);

  const corners = placement ? cornersOf({ ...layer, placement }) : [];
  expect(corners[2]?.x).toBeCloseTo(310);
  expect(corners[2]?.y).toBeCloseTo(260);
});

test("points that fold or lie on one line give no placement", () => {
  const layer = sampleLayer("a");
  const crossed = [QUAD[0], QUAD[2], QUAD[1], QUAD[3]].flatMap((one) => one ?? []);
  const flat = QUAD.map(({ x }) => ({ x, y: 50 }));

  expect(setInto(layer.placement, layer, crossed)).toBeNull();
  expect(setInto(layer.placement, layer, flat)).toBeNull();
});

test("a corner rests on the nearest point within reach, and on none beyond", () => {
  expect(nearestRest(QUAD, { x: 118, y: 44 }, 9)).toBe(QUAD[0]);
  expect(nearestRest(QUAD, { x: 118, y: 49.3 }, 9)).toBeNull();
  expect(nearestRest([], { x: 0, y: 0 }, 9)).toBeNull();
});
