import { expect, test } from "vitest";
import { lyingOf, maskLying } from "@/model/lying";
import {
  draggedShape,
  EMPTY_MASK,
  newShape,
  openPart,
  openShape,
  shapeCorners,
  shapePoint,
  showsOnlyStrokes,
} from "@/model/masks";
import { brushPart, canPaintAt, freshPart, isFarEnough, isFull, strokeEdit } from "@/model/strokes";
import { sampleComposite, sampleGroup, sampleLayer, samplePlacement } from "@/testing/samples";

const sheet = sampleComposite().canvas;
const keys = { shiftKey: false, altKey: false };
const base = newShape(undefined, sheet, "rectangle");
const shape = { ...base, id: "s", x: 50, y: 40, width: 40, height: 20, turn: 0, softness: 0 };
const turned = { ...shape, turn: 30 };

test("a new shape lies in the middle of what is seen, and narrows what shows already", () => {
  const wide = sampleLayer("a", {
    width: 300,
    height: 80,
    placement: samplePlacement({ x: 50, y: 40 }),
  });
  const first = newShape(wide, sheet, "ellipse");
  const second = newShape({ ...wide, mask: { ...EMPTY_MASK, parts: [first] } }, sheet, "rectangle");

  expect([first.x, first.y, first.join]).toEqual([150, 40, "add"]);
  expect(first.width).toBe(first.height);
  expect(second.join).toBe("keep");
});

test.each([0, 1, 2, 3] as const)("corner %i is dragged while the one across stays", (corner) => {
  const across = shapeCorners(turned)[(corner + 2) % 4];
  const from = shapeCorners(turned)[corner];
  const to = { x: from.x + 3, y: from.y - 2 };

  const after = draggedShape(turned, corner, to, keys);

  const corners = shapeCorners(after);
  expect(corners[corner]?.x).toBeCloseTo(to.x, 0);
  expect(corners[corner]?.y).toBeCloseTo(to.y, 0);
  expect(corners[(corner + 2) % 4]?.x).toBeCloseTo(across?.x ?? 0, 0);
  expect(corners[(corner + 2) % 4]?.y).toBeCloseTo(across?.y ?? 0, 0);
});

test("with Alt the middle stays, with Shift both sides become the same", () => {
  const about = draggedShape(shape, 2, { x: 80, y: 60 }, { ...keys, altKey: true });
  const even = draggedShape(shape, 2, { x: 90, y: 52 }, { ...keys, shiftKey: true });

  expect([about.x, about.y, about.width, about.height]).toEqual([50, 40, 60, 40]);
  expect(even.width).toBe(even.height);
});

test("a shape is moved, turned in steps, and softened by its grips", () => {
  expect(draggedShape(shape, "middle", { x: 7, y: 8 }, keys)).toMatchObject({ x: 7, y: 8 });
  expect(draggedShape(shape, "turn", { x: 90, y: 40 }, keys).turn).toBe(90);
  const stepped = draggedShape(shape, "turn", { x: 91, y: 41 }, { ...keys, shiftKey: true });
  expect(stepped.turn).toBe(90);
  expect(draggedShape(shape, "soft", { x: 78, y: 40 }, keys).softness).toBe(16);
  expect(draggedShape(shape, "soft", { x: 55, y: 40 }, keys).softness).toBe(0);
});

test("a shape never becomes smaller than a pixel", () => {
  const flat = draggedShape(shape, 2, { x: 30, y: 30 }, keys);

  expect([flat.width, flat.height]).toEqual([1, 1]);
});

const painted = {
  kind: "painted",
  id: "p",
  join: "keep",
  inverted: false,
  works: true,
  last: "",
  strokes: 3,
} as const;
const cut = sampleLayer("a", { mask: { ...EMPTY_MASK, parts: [shape, painted] } });

test("the open line says whether a shape or the brush is in the hand", () => {
  expect(openShape(cut, "s")?.id).toBe("s");
  expect(brushPart(cut, "s")).toBeNull();
  expect(brushPart(cut, "p")).toBe("p");
  expect(openShape(cut, "p")).toBeUndefined();
  expect(openPart(cut, null)?.id).toBe("p");
  const fresh = freshPart("1234");
  expect(brushPart(cut, fresh)).toBe(fresh);
  expect(openShape(cut, fresh)).toBeUndefined();
  expect(brushPart(sampleLayer("b"), null)).toBeNull();
});

test("positions of a mask go to the canvas and back, through groups and matrices", () => {
  const mask = { ...EMPTY_MASK, to_mask: [0.5, 0.1, 3, -0.2, 2, -4] as const };
  const inner = sampleLayer("in", {
    mask,
    placement: samplePlacement({ x: 8, y: 5, turn: 20, flipped: true }),
  });
  const group = sampleGroup("g", samplePlacement({ x: 40, y: 30, scale_x: 2, scale_y: 2 }), inner);
  const composite = sampleComposite(group);

  for (const linked of [true, false]) {
    const lying = maskLying(composite, inner, { ...mask, linked });
    const there = lying.toCanvas({ x: 3, y: 9 });
    expect(lying.fromCanvas(there).x).toBeCloseTo(3);
    expect(lying.fromCanvas(there).y).toBeCloseTo(9);
  }
  const own = lyingOf(composite, inner, true).toCanvas({ x: 10, y: 5 });
  expect(own.x).toBeCloseTo(40 + 2 * (8 - 10));
});

test("a mask that flattens the plane breaks nothing", () => {
  const flat = { ...EMPTY_MASK, to_mask: [0, 0, 5, 0, 0, 5] as const };
  const at = maskLying(sampleComposite(cut), cut, flat).toCanvas({ x: 1, y: 1 });

  expect(Number.isFinite(at.x + at.y)).toBe(true);
});

test("a stroke is measured in the mask's own pixels, its size too", () => {
  const small = sampleLayer("a", {
    width: 40,
    height: 40,
    placement: samplePlacement({ x: 50, y: 40, scale_x: 0.5, scale_y: 0.5 }),
  });
  const lying = lyingOf(sampleComposite(small), small, true);
  const brush = { size: 10, softness: 0.5, strength: 1, shows: true };
  const edit = strokeEdit(small, "p", lying, [{ at: { x: 50, y: 40 }, pressure: 1 }], brush);

  expect(edit.stroke).toMatchObject({ points: [[20, 20, 1]], size: 20, shows: true });
});

test("a stroke may begin where the layer is, and anywhere on what lies everywhere", () => {
  expect(canPaintAt(cut, { x: 50, y: 40 })).toBe(true);
  expect(canPaintAt(cut, { x: 5, y: 5 })).toBe(false);
  expect(shapePoint(shape, 1, 0)).toEqual({ x: 70, y: 40 });
});

test("a stroke of a large brush is sent in pieces that the service takes", () => {
  const piece = (count: number, size: number) => ({
    points: Array.from({ length: count }, (_, x): [number, number, number] => [x, 0, 1]),
    size,
  });

  expect(isFull(piece(400, 60))).toBe(false);
  expect(isFull(piece(400, 800))).toBe(true);
  expect(isFull(piece(1000, 1))).toBe(true);
  // The service's own reckoning, at the last point before a piece is full.
  const last = 156;
  expect(isFull(piece(last, 800))).toBe(false);
  expect((24 * last + last * 800) * 800).toBeLessThan(200_000_000);
});

test("points that the hand gives too close together are left out", () => {
  expect(isFarEnough(undefined, { x: 0, y: 0 }, 100)).toBe(true);
  expect(isFarEnough({ x: 0, y: 0 }, { x: 2, y: 0 }, 100)).toBe(false);
  expect(isFarEnough({ x: 0, y: 0 }, { x: 0, y: 3 }, 100)).toBe(true);
});

test("only a mask that begins with strokes alone shows nothing but those", () => {
  const painted = {
    kind: "painted",
    id: "p",
    inverted: false,
    works: true,
    last: null,
    strokes: 0,
  };
  const mask = (join: "add" | "keep", works = true) =>
    ({ ...EMPTY_MASK, parts: [{ ...painted, join, works }] }) as typeof EMPTY_MASK;
  expect(showsOnlyStrokes(mask("add"))).toBe(true);
  expect(showsOnlyStrokes(mask("keep"))).toBe(false);
  expect(showsOnlyStrokes(mask("add", false))).toBe(false);
  expect(showsOnlyStrokes(null)).toBe(false);
});
