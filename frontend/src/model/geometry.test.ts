import { describe, expect, test } from "vitest";
import {
  cornersOf,
  fillingCanvas,
  fittedInside,
  layersAt,
  scaledByCorner,
  toCanvas,
  toSource,
  turnedTowards,
  wrappedTurn,
} from "@/model/geometry";
import { sampleComposite, sampleLayer, samplePlacement } from "@/testing/samples";

const canvas = { width: 100, height: 80, ppi: 240, background: null };

describe("corners", () => {
  test("of a plain layer lie about its middle", () => {
    const layer = sampleLayer("a");

    expect(cornersOf(layer)).toEqual([
      { x: 40, y: 35 },
      { x: 60, y: 35 },
      { x: 60, y: 45 },
      { x: 40, y: 45 },
    ]);
  });

  test("turn clockwise with the layer", () => {
    const layer = sampleLayer("a", { placement: samplePlacement({ turn: 90 }) });

    const [topLeft] = cornersOf(layer);

    expect(topLeft.x).toBeCloseTo(55);
    expect(topLeft.y).toBeCloseTo(30);
  });
});

test("the way to the photo undoes the way to the canvas", () => {
  const placement = samplePlacement({ turn: 33, scale_x: 2, scale_y: 0.5, flipped: true });
  const layer = sampleLayer("a", { placement });

  const back = toSource(layer, toCanvas(layer, { x: 7, y: 3 }));

  expect(back.x).toBeCloseTo(7);
  expect(back.y).toBeCloseTo(3);
});

test("a click finds visible, unlocked layers, the front one first", () => {
  const composite = sampleComposite(
    sampleLayer("back"),
    sampleLayer("hidden", { visible: false }),
    sampleLayer("locked", { locked: true }),
    sampleLayer("elsewhere", { placement: samplePlacement({ x: 5, y: 5 }) }),
    sampleLayer("front"),
  );

  const found = layersAt(composite.layers, { x: 50, y: 40 });

  expect(found.map(({ id }) => id)).toEqual(["front", "back"]);
});

describe("dragging a corner", () => {
  const layer = sampleLayer("a");

  test("scales in proportion and holds the opposite corner", () => {
    const place = scaledByCorner(layer, 2, { x: 80, y: 55 }, { free: false, aboutMiddle: false });

    expect(place.scale_x).toBeCloseTo(2);
    expect(place.scale_y).toBeCloseTo(2);
    const [held] = cornersOf({ ...layer, placement: place });
    expect(held.x).toBeCloseTo(40);
    expect(held.y).toBeCloseTo(35);
  });

  test("scales freely on demand", () => {
    const place = scaledByCorner(layer, 2, { x: 80, y: 45 }, { free: true, aboutMiddle: false });

    expect(place.scale_x).toBeCloseTo(2);
    expect(place.scale_y).toBeCloseTo(1);
  });

  test("about the middle leaves the middle where it is", () => {
    const place = scaledByCorner(layer, 2, { x: 70, y: 50 }, { free: false, aboutMiddle: true });

    expect(place).toMatchObject({ x: 50, y: 40, scale_x: 2, scale_y: 2 });
  });

  test("through the opposite corner never turns the layer inside out", () => {
    const place = scaledByCorner(layer, 2, { x: 0, y: 0 }, { free: false, aboutMiddle: false });

    expect(place.scale_x).toBeGreaterThan(0);
  });
});

test("turning follows the hand, in steps if wanted", () => {
  const place = samplePlacement();

  expect(turnedTowards(place, { x: 60, y: 40 }, null).turn).toBe(90);
  expect(turnedTowards(place, { x: 51, y: 30 }, 15).turn).toBe(0);
});

test("angles are kept within half a turn either way", () => {
  expect([0, 190, -190, 360, 540].map(wrappedTurn)).toEqual([0, -170, 170, 0, 180]);
});

describe("a layer on the canvas", () => {
  test("fits inside by its longer side", () => {
    expect(fittedInside(sampleLayer("a"), canvas)).toMatchObject({ x: 50, y: 40, scale_x: 5 });
  });

  test("fills it by its shorter side", () => {
    expect(fillingCanvas(sampleLayer("a"), canvas)).toMatchObject({ scale_x: 8, scale_y: 8 });
  });

  test("fits inside when turned a quarter", () => {
    const layer = sampleLayer("a", { placement: samplePlacement({ turn: 90 }) });

    expect(fittedInside(layer, canvas).scale_x).toBeCloseTo(4);
  });
});
