import { expect, test } from "vitest";
import {
  boxOf,
  draggedShadow,
  effectsFor,
  effectTries,
  FRESH_EFFECTS,
  freshEffect,
  openEffectPlace,
  shadowGrips,
} from "@/model/effects";
import { sampleLayer, samplePlacement } from "@/testing/samples";

const SHEET = { width: 4000, height: 3000 };
// 20 wide and 10 high: from 40 to 60 across, from 35 to 45 down.
const layer = sampleLayer("a", { placement: samplePlacement() });
const AS_IT_LIES = {
  fromCanvas: (at: { x: number; y: number }) => at,
  toCanvas: (at: { x: number; y: number }) => at,
};
const cast = freshEffect("cast", SHEET);
const soft = freshEffect("soft", SHEET, { distance: 5, angle: 90 });

test("lengths suit the sheet, whatever its size", () => {
  expect(freshEffect("soft", SHEET).distance).toBe(36);
  expect(freshEffect("outline", { width: 10, height: 10 }).width).toBe(1);
});

test("what lies everywhere can stand nowhere", () => {
  const { mends, picture, placement, tones, width, height, ...shared } = layer;
  const wash = { ...shared, kind: "color", color: "#ffffff" } as const;
  expect(effectsFor(wash).map(({ kind }) => kind)).toEqual(["soft", "outline"]);
  expect(effectTries(wash, SHEET).map(({ title }) => title)).toEqual(["Behind it", "Outline"]);
});

test("a start takes the place of what the layer has of its kind", () => {
  const has = sampleLayer("a", { effects: [cast, FRESH_EFFECTS.outline] });
  const groups = effectTries(has, SHEET);
  const start = groups[0]?.tries.find(({ title }) => title === "To the left");
  expect(start?.edit).toMatchObject({
    kind: "shade_layer",
    effects: [{ kind: "cast", direction: -55 }, { kind: "outline" }],
  });
  const chosen = groups.flatMap(({ tries }) => tries.filter((one) => one.isChosen));
  expect(chosen.map(({ title }) => title)).toEqual(["To the right"]);
});

test("a shadow is dragged by where it ends", () => {
  const box = boxOf(layer, AS_IT_LIES, null);
  if (!box) throw new Error("a photo has a box");
  const grips = shadowGrips({ ...cast, direction: 0, length: 1 }, box);
  expect(grips).toEqual({ from: { x: 50, y: 45 }, end: { x: 50, y: 55 } });
  expect(draggedShadow(cast, box, { x: 60, y: 45 })).toMatchObject({ direction: 90, length: 1 });
  expect(draggedShadow(cast, box, { x: 5000, y: 45 })).toMatchObject({ length: 3 });
  expect(draggedShadow(soft, box, { x: 43, y: 40 })).toMatchObject({ angle: 180, distance: 7 });
  expect(shadowGrips(FRESH_EFFECTS.outline, box)).toBeNull();
});

test("a shadow begins where what shows of the layer ends, if that is known", () => {
  const shows = [
    { x: 44, y: 36 },
    { x: 48, y: 41 },
  ] as const;
  expect(boxOf(layer, AS_IT_LIES, shows)).toEqual(shows);
});

test("a line that is no place of an effect opens none", () => {
  const has = sampleLayer("a", { effects: [cast] });
  for (const line of [null, "part", "-1", "1", "0.5"]) {
    expect(openEffectPlace(has, line)).toBeNull();
  }
  expect(openEffectPlace(has, "0")).toBe(0);
});
