import { MEND } from "@generated/limits";
import { expect, test } from "vitest";
import {
  isMending,
  MENDING,
  mendEdits,
  mendLine,
  mendsLying,
  openMend,
  piecesOf,
} from "@/model/mends";
import {
  sampleComposite,
  sampleGroup,
  sampleLayer,
  sampleMending,
  samplePlacement,
} from "@/testing/samples";

const mend = { id: "m", points: [[1, 2]] as [number, number][], size: 8, works: true };
const layer = sampleLayer("a", { mends: [mend] });
const own = {
  fromCanvas: (at: { x: number; y: number }) => at,
  toCanvas: (at: { x: number; y: number }) => at,
};

test("a way is cut into pieces that go on where the one before ends", () => {
  const pieces = piecesOf(
    [
      [0, 0],
      [100, 0],
      [100, 30],
    ],
    40,
  );
  expect(pieces.map((piece) => piece[0])).toEqual([
    [0, 0],
    pieces[0]?.at(-1),
    pieces[1]?.at(-1),
    ...pieces.slice(3).map((_, place) => pieces[place + 2]?.at(-1)),
  ]);
  for (const piece of pieces) {
    const length = piece.slice(1).reduce((sum, [x, y], place) => {
      const [px, py] = piece[place] ?? [0, 0];
      return sum + Math.hypot(x - px, y - py);
    }, 0);
    expect(length).toBeLessThanOrEqual(40);
  }
  expect(pieces.at(-1)?.at(-1)).toEqual([100, 30]);
});

test("a click is one place, and its size is within the limits", () => {
  const [edit, ...more] = mendEdits(layer, own, [{ x: 5, y: 6 }], 5000);
  expect(more).toEqual([]);
  expect(edit).toMatchObject({
    kind: "mend_photo",
    mend: { points: [[5, 6]], size: MEND.size.maximum },
  });
  expect(mendEdits(layer, own, [], 10)).toEqual([]);
});

test("a wide and long stroke becomes as many places as the service takes", () => {
  const way = Array.from({ length: 200 }, (_, at) => ({ x: 5 * at, y: 0 }));
  const edits = mendEdits(layer, own, way, 40);
  expect(edits.length).toBeGreaterThan(2);
  const ids = edits.map((edit) => (edit.kind === "mend_photo" ? edit.mend.id : ""));
  expect(new Set(ids).size).toBe(edits.length);
});

test("a place is open by its own line, and the brush by both", () => {
  expect(openMend(layer, mendLine(mend))).toBe(0);
  expect(openMend(layer, MENDING)).toBeNull();
  expect(isMending(layer, MENDING) && isMending(layer, mendLine(mend))).toBe(true);
  expect(isMending(layer, "part")).toBe(false);
  expect(isMending(layer, null)).toBe(false);
});

test("places of what lies beneath are measured in what their layer lies in", () => {
  const repairs = sampleMending("m", [mend]);
  expect(isMending(repairs, MENDING) && openMend(repairs, mendLine(mend)) === 0).toBe(true);
  const flat = mendsLying(sampleComposite(repairs), repairs);
  expect(flat.fromCanvas({ x: 70, y: 60 })).toEqual({ x: 70, y: 60 });

  // A group of 20 by 10 pixels, enlarged three times about its middle at 50, 40.
  const placement = samplePlacement({ scale_x: 3, scale_y: 3 });
  const inside = mendsLying(sampleComposite(sampleGroup("g", placement, repairs)), repairs);
  expect(inside.fromCanvas({ x: 50, y: 40 })).toEqual({ x: 10, y: 5 });
  expect(inside.fromCanvas({ x: 53, y: 34 })).toEqual({ x: 11, y: 3 });
  const [edit] = mendEdits(repairs, inside, [{ x: 53, y: 34 }], 30);
  expect(edit).toMatchObject({ layer_id: "m", mend: { points: [[11, 3]], size: 10 } });
});
