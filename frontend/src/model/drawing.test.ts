import { describe, expect, it } from "vitest";
import {
  diamondIn,
  drawLine,
  drawnKind,
  movedCorner,
  movedOutline,
  newEven,
  newOutline,
  shapeBetween,
  simplified,
  withCornerAfter,
  withoutCorner,
} from "@/model/drawing";
import { maskLying } from "@/model/lying";
import { EMPTY_MASK, newShape } from "@/model/masks";
import type { Point } from "@/model/points";
import { brushPart, reachOf, strokeEdit } from "@/model/strokes";
import { sampleComposite, sampleLayer, samplePlacement } from "@/testing/samples";

const photo = sampleLayer("moths", { placement: samplePlacement({ x: 30, y: 20, turn: 90 }) });
const composite = sampleComposite(photo);
const PLAIN = { shiftKey: false, altKey: false };
const triangle = newOutline(photo, [
  { x: 0, y: 0 },
  { x: 10, y: 0 },
  { x: 0, y: 6 },
]);

describe("drawnKind", () => {
  it("knows what is drawn next, and nothing else", () => {
    expect(drawnKind(drawLine("outline"))).toBe("outline");
    expect(drawnKind("outline")).toBeNull();
    expect(drawnKind(null)).toBeNull();
    expect(brushPart(photo, drawLine("even"))).toBeNull();
  });
});

describe("shapeBetween", () => {
  const shape = newShape(photo, { width: 100, height: 80 }, "ellipse");

  it("lies between two corners, whichever comes first", () => {
    const drawn = shapeBetween(shape, { x: 50, y: 40 }, { x: 20, y: 60 }, PLAIN);

    expect(drawn).toMatchObject({ x: 35, y: 50, width: 30, height: 20 });
  });

  it("is as wide as high with Shift, and round its middle with Alt", () => {
    const keys = { shiftKey: true, altKey: true };
    const drawn = shapeBetween(shape, { x: 50, y: 40 }, { x: 45, y: 60 }, keys);

    expect(drawn).toMatchObject({ x: 50, y: 40, width: 40, height: 40 });
  });

  it("always has a side", () => {
    const drawn = shapeBetween(shape, { x: 5, y: 5 }, { x: 5, y: 5 }, PLAIN);

    expect([drawn.width, drawn.height]).toEqual([1, 1]);
  });
});

describe("outlines", () => {
  it("move by a corner and as a whole", () => {
    expect(movedCorner(triangle, 1, { x: 7.04, y: -3 }).points[1]).toEqual([7, -3]);
    const moved = movedOutline(triangle, { x: 13.3, y: 2 });

    expect(moved.points).toEqual([
      [10, 0],
      [20, 0],
      [10, 6],
    ]);
  });

  it("get corners half way, also from the last to the first, and keep three", () => {
    const more = withCornerAfter(triangle, 2);

    expect(more.points[3]).toEqual([0, 3]);
    expect(withoutCorner(more, 3)).toEqual(triangle);
    expect(withoutCorner(triangle, 0)).toBe(triangle);
  });

  it("have no more corners than the service takes", () => {
    const most = newOutline(
      photo,
      Array.from({ length: 1000 }, (_, x) => ({ x, y: 0 })),
    );

    expect(withCornerAfter(most, 0)).toBe(most);
  });

  it("begin as a diamond within the layer", () => {
    const corners = diamondIn(photo, { width: 100, height: 80 });

    expect(corners).toHaveLength(4);
    for (const { x, y } of corners) {
      expect(x).toBeGreaterThan(0);
      expect(x).toBeLessThan(photo.width);
      expect(y).toBeGreaterThan(0);
      expect(y).toBeLessThan(photo.height);
    }
  });
});

describe("simplified", () => {
  it("keeps a free line within a distance of itself", () => {
    const line = Array.from({ length: 200 }, (_, step): Point => {
      const angle = (step / 199) * Math.PI;
      return { x: 100 * Math.cos(angle), y: 100 * Math.sin(angle) };
    });

    const kept = simplified(line, 1);

    expect(kept.length).toBeLessThan(20);
    expect([kept[0], kept.at(-1)]).toEqual([line[0], line.at(-1)]);
    for (const { x, y } of kept) expect(Math.hypot(x, y)).toBeCloseTo(100);
    const middles = kept.slice(1).map((to, place) => {
      const from = kept[place] ?? to;
      return Math.hypot((from.x + to.x) / 2, (from.y + to.y) / 2);
    });
    expect(Math.min(...middles)).toBeGreaterThanOrEqual(99);
  });

  it("leaves points and what comes back to its beginning as they are", () => {
    const spike = [
      { x: 0, y: 0 },
      { x: 9, y: 0 },
      { x: 0, y: 0 },
    ];

    expect(simplified([{ x: 3, y: 4 }], 1)).toEqual([{ x: 3, y: 4 }]);
    expect(simplified(spike, 1)).toEqual(spike);
  });
});

describe("newEven", () => {
  it("names the photo's pixel, and maps the mask's own positions there", () => {
    const mask = { ...EMPTY_MASK, to_mask: [2, 0, 4, 0, 2, -6] as const };
    const layer = { ...photo, mask };
    const lying = maskLying(composite, layer, mask);

    const part = newEven(composite, layer, lying, { x: 31, y: 22 });

    // Turned by 90°, the photo's x runs down and its y to the left.
    expect(part.spots).toEqual([[12, 4]]);
    expect(part.to_picture).toEqual([0.5, 0, -2, 0, 0.5, 3]);
  });
});

describe("reachOf", () => {
  it("is as far as the longer axis of what a brush becomes", () => {
    const placement = samplePlacement({ scale_x: 4, scale_y: 0.25, turn: 30 });
    const layer = sampleLayer("moths", { placement });
    const lying = maskLying(sampleComposite(layer), layer, EMPTY_MASK);
    const brush = { size: 18, softness: 0, strength: 1, shows: false };
    const at = [{ at: { x: 50, y: 40 }, pressure: 1 }];

    const { stroke } = strokeEdit(layer, "p", lying, at, brush);

    expect(stroke && reachOf(lying, stroke)).toBeCloseTo(40);
  });
});

describe("strokeEdit", () => {
  it("holds what is dragged very far away within what the service takes", () => {
    const brush = { size: 4, softness: 0, strength: 1, shows: false };
    const lying = maskLying(composite, photo, EMPTY_MASK);
    const far = { at: { x: 9e6, y: -9e6 }, pressure: 1 };

    const { stroke } = strokeEdit(photo, "p", lying, [far], brush);

    expect(stroke?.points).toEqual([[-60000, -60000, 1]]);
  });
});
