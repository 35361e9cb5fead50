import { expect, test } from "vitest";
import { draggedFade, fadeGrips, fadeTries, firstFade, openFadePlace } from "@/model/fades";
import { sampleComposite, sampleLayer, samplePlacement } from "@/testing/samples";

const sheet = sampleComposite().canvas;
const layer = sampleLayer("a", {
  width: 100,
  height: 80,
  placement: samplePlacement({ x: 50, y: 40 }),
});
const fade = firstFade(layer, sheet);

test("the first fade goes to the left and ends on the layer's edge", () => {
  const grips = fadeGrips(fade);

  expect(grips.gone.x).toBeCloseTo(0);
  expect(grips.full.x).toBeCloseTo(45);
  expect(grips.full.y).toBeCloseTo(40);
});

test("left is what is seen at the left, also when the photo is mirrored or turned", () => {
  const mirrored = { ...layer, placement: samplePlacement({ x: 50, y: 40, flipped: true }) };
  const turned = { ...layer, placement: samplePlacement({ x: 50, y: 40, turn: 90 }) };

  expect(fadeGrips(firstFade(mirrored, sheet)).gone.x).toBeCloseTo(100);
  expect(firstFade(turned, sheet).angle).toBe(90);
});

test("a ready fade begins at the sheet's edge where the layer reaches beyond it", () => {
  const wide = { ...layer, width: 300, placement: samplePlacement({ x: 50, y: 40 }) };

  expect(fadeGrips(firstFade(wide, sheet)).gone.x).toBeCloseTo(100);
});

test("dragging one end leaves the other where it is", () => {
  const dragged = draggedFade(fade, "full", { x: 70, y: 10 });

  expect(fadeGrips(dragged).full.x).toBeCloseTo(70, 0);
  expect(fadeGrips(dragged).gone.x).toBeCloseTo(0, 0);
  expect(fadeGrips(dragged).gone.y).toBeCloseTo(40, 0);
});

test("a round fade is dragged by its middle, both reaches and its full part", () => {
  const round = { ...fade, shape: "round", x: 50, y: 40, length: 40, angle: 0, aspect: 1 } as const;

  expect(draggedFade(round, "gone", { x: 50, y: 60 })).toMatchObject({
    length: 20,
    angle: 90,
    aspect: 2,
  });
  expect(draggedFade(round, "side", { x: 50, y: 50 }).aspect).toBeCloseTo(0.25);
  expect(draggedFade(round, "full", { x: 70, y: 40 }).full).toBeCloseTo(0.5);
  expect(draggedFade(round, "middle", { x: 1, y: 2 })).toMatchObject({ x: 1, y: 2, length: 40 });
});

test("values that are dragged too far stay within what the service takes", () => {
  const round = { ...fade, shape: "round", x: 50, y: 40, length: 40, angle: 0 } as const;

  expect(draggedFade(round, "full", { x: 500, y: 40 }).full).toBe(0.99);
  expect(draggedFade(round, "full", { x: -50, y: 40 }).full).toBe(0);
  expect(draggedFade(round, "side", { x: 50, y: 1e6 }).aspect).toBe(100);
});

test("the try strip marks the fade that the layer has, whatever its order of values", () => {
  const has = Object.fromEntries(Object.entries(fade).toReversed()) as unknown as typeof fade;
  const groups = fadeTries({ ...layer, fades: [has] }, sheet, 0);
  const chosen = groups.flatMap(({ tries }) => tries).filter(({ isChosen }) => isChosen);

  expect(chosen.map(({ title }) => title)).toEqual(["To the left"]);
});

test("a try exchanges the open fade alone", () => {
  const two = { ...layer, fades: [fade, { ...fade, angle: 0 }] };
  const tried = fadeTries(two, sheet, 1).flatMap(({ tries }) => tries);
  const fades = tried.map(({ edit }) => (edit.kind === "fade_layer" ? edit.fades : []));

  expect(fades.slice(1).every((some) => some.length === 2 && some[0] === fade)).toBe(true);
  expect(fades[0]).toEqual([fade]);
});

test("the open line names a fade only while there is one", () => {
  const two = { ...layer, fades: [fade, fade] };

  expect(openFadePlace(two, "1")).toBe(1);
  expect(openFadePlace(two, "7")).toBe(0);
  expect(openFadePlace(two, null)).toBe(0);
  expect(openFadePlace(two, "c0ffee")).toBe(0);
});
