import { expect, test } from "vitest";
import { countLayers, layerById, pathTo, siblingsOf } from "@/model/composite";
import { FRESH_EFFECTS } from "@/model/effects";
import { cornersOf, layersAt } from "@/model/geometry";
import { carriedBy, intoPile, onCanvas } from "@/model/nesting";
import { sampleComposite, sampleGroup, sampleLayer, samplePlacement } from "@/testing/samples";

const turned = samplePlacement({ x: 50, y: 40, scale_x: 2, scale_y: 2, turn: 90 });
const mirrored = samplePlacement({ x: 5, y: 5, scale_x: 0.5, scale_y: 0.5, flipped: true });
const member = sampleLayer("a", { placement: samplePlacement({ x: 12, y: 7, turn: 20 }) });
const inner = sampleGroup("inner", mirrored, member);
const composite = sampleComposite(sampleLayer("b"), sampleGroup("outer", turned, inner));

test("lengths of shadows and outlines go along with what is scaled", () => {
  const outline = { ...FRESH_EFFECTS.outline, width: 6, softness: 2 };
  const soft = { ...FRESH_EFFECTS.soft, distance: 1500, softness: 10 };
  const layer = sampleLayer("a", { effects: [FRESH_EFFECTS.cast, soft, outline] });
  const carried = carriedBy({ x: 0, y: 0, scale: 2, turn: 0 })(layer);
  expect(carried.effects).toMatchObject([
    FRESH_EFFECTS.cast,
    { distance: 2000, softness: 20 },
    { width: 12, softness: 4 },
  ]);
});

test("layers are found however deep they lie", () => {
  expect(pathTo(composite.layers, "a").map(({ id }) => id)).toEqual(["outer", "inner", "a"]);
  expect(layerById(composite, "a")).toBe(member);
  expect(siblingsOf(composite, "inner")).toEqual([inner]);
});

test("layers are counted wherever they lie, groups are not", () => {
  expect(countLayers(composite.layers)).toBe(2);
});

test("a member's corners lie on the canvas where its groups take them", () => {
  const group = sampleGroup(
    "g",
    turned,
    sampleLayer("m", { placement: samplePlacement({ x: 10, y: 5 }) }),
  );
  const [topLeft] = cornersOf(onCanvas(sampleComposite(group), group.layers[0] as typeof member));

  // The group's own top left, turned a quarter about its middle and doubled.
  expect(topLeft.x).toBeCloseTo(60);
  expect(topLeft.y).toBeCloseTo(20);
});

test("a placement on the canvas comes back as the member's own", () => {
  const back = intoPile(composite, "a", onCanvas(composite, member).placement);

  expect(back.x).toBeCloseTo(member.placement.x);
  expect(back.y).toBeCloseTo(member.placement.y);
  expect(back.turn).toBeCloseTo(20);
  expect(back).toMatchObject({ scale_x: 1, scale_y: 1, flipped: false });
});

test("a click takes a group where one of its members shows", () => {
  const group = sampleGroup(
    "g",
    samplePlacement({ x: 50, y: 40, scale_x: 4, scale_y: 4 }),
    sampleLayer("m", { placement: samplePlacement({ x: 5, y: 5, scale_x: 0.5, scale_y: 0.5 }) }),
  );

  expect(layersAt([group], { x: 30, y: 40 })).toEqual([group]);
  expect(layersAt([group], { x: 80, y: 40 })).toEqual([]);
});
