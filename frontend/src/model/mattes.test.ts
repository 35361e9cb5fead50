import { describe, expect, it } from "vitest";
import { withEdits } from "@/model/expected";
import { maskLying } from "@/model/lying";
import { EMPTY_MASK } from "@/model/masks";
import {
  askedKey,
  BY_ITSELF,
  cutOutEdit,
  cutTries,
  isRough,
  matteOf,
  missingWords,
  NO_HINTS,
  openMatte,
  owned,
  ownMatte,
  pictureLying,
  requestsFor,
  roughLine,
  roughStroke,
  withStroke,
} from "@/model/mattes";
import { sampleComposite, sampleLayer, samplePlacement } from "@/testing/samples";

const placement = samplePlacement({ x: 30, y: 20, scale_x: 2, scale_y: 2, turn: 90 });
const photo = sampleLayer("moths", { placement });
const composite = sampleComposite(photo);
const FOUND = { matte: "ab".repeat(32), level: 1, subjects: 0, rough: false };

describe("matteOf", () => {
  it("lies in the photo's own pixels, however the mask was moved", () => {
    const moved = { ...photo, mask: { ...EMPTY_MASK, to_mask: [2, 0, 3, 0, 2, 5] as const } };
    const lying = maskLying(composite, moved, moved.mask);
    const part = matteOf(sampleComposite(moved), moved, FOUND, BY_ITSELF, null);
    const [a, b, c, d, e, f] = part.to_picture;
    const own = lying.fromCanvas(pictureLying(composite, photo).toCanvas({ x: 7, y: 4 }));

    expect(a * own.x + b * own.y + c).toBeCloseTo(7);
    expect(d * own.x + e * own.y + f).toBeCloseTo(4);
  });

  it("keeps all but what was found of the part that it changes", () => {
    const before = { ...matteOf(composite, photo, FOUND, BY_ITSELF, null), inverted: true };
    const request = { way: "gaps", hints: { ...NO_HINTS, subject: 1 } } as const;

    const after = matteOf(composite, photo, { ...FOUND, matte: "cd".repeat(32) }, request, before);

    expect(after).toEqual({ ...before, ...request, network: null, matte: "cd".repeat(32) });
  });
});

describe("the edit", () => {
  it("shows at once, cleans the edge once, and takes the place of the part it changes", () => {
    const part = matteOf(composite, photo, FOUND, BY_ITSELF, null);
    const [first] = withEdits(composite, [cutOutEdit(photo, part)]).layers;
    const other = { ...part, matte: "cd".repeat(32) };
    const edits = [cutOutEdit(photo, part), cutOutEdit(photo, other)];
    const [second] = withEdits(composite, edits).layers;

    expect(first?.mask).toMatchObject({ cleaned: 1, parts: [part] });
    expect(second?.mask?.parts).toEqual([other]);
    expect(ownMatte(photo)).toBeUndefined();
    expect(first && ownMatte(first)).toEqual(part);
  });
});

describe("what is in the hand", () => {
  const part = matteOf(composite, photo, FOUND, BY_ITSELF, null);
  const cut = { ...photo, mask: { ...EMPTY_MASK, parts: [part] } };

  it("is the rough brush where a backdrop of the photo is open, or comes", () => {
    expect(openMatte(cut, part.id)).toBe(part);
    expect(openMatte(cut, null)).toBe(part);
    expect(isRough(photo, roughLine("x"))).toBe(true);
    expect(isRough(photo, null)).toBe(false);
    expect(isRough(cut, "another line")).toBe(false);
  });

  it("leaves backdrops of another photo alone", () => {
    const foreign = { ...part, picture: "f".repeat(64) };
    const taken = { ...cut, mask: { ...EMPTY_MASK, parts: [foreign] } };
    expect(openMatte(taken, null)).toBeNull();
    expect(ownMatte(taken)).toBeUndefined();
  });
});

describe("rough strokes", () => {
  it("are as wide in the photo as on the canvas, and lie where the hand was", () => {
    const lying = pictureLying(composite, photo);
    const stroke = roughStroke(lying, [{ x: 30, y: 20 }], 12, true);

    expect(stroke.size).toBeCloseTo(6);
    expect(stroke.points).toEqual([[10, 5]]);
    expect(owned(lying, [{ x: 1e9, y: 0 }])[0]?.[1]).toBe(-60_000);
  });

  it("push the oldest out beyond the limit", () => {
    const stroke = (at: number) => ({ keeps: true, size: 1, points: [[at, 0] as const] });
    const many = { ...NO_HINTS, strokes: [stroke(1), stroke(2)] };
    expect(withStroke(many, stroke(3), 2).strokes).toEqual([stroke(2), stroke(3)]);
  });
});

describe("the try strip", () => {
  it("asks for each subject once several can be told apart", () => {
    const several = { [askedKey(BY_ITSELF)]: { ...FOUND, subjects: 2 } };
    expect(requestsFor(null, {}, [])).toHaveLength(5);
    expect(requestsFor(null, several, [])).toHaveLength(7);
  });

  it("leads back from one of several to all of them", () => {
    const second = { ...NO_HINTS, subject: 1 };
    const found = {
      [askedKey(BY_ITSELF)]: { ...FOUND, subjects: 2 },
      [askedKey({ way: "itself", hints: second })]: { ...FOUND, matte: "cd".repeat(32) },
    };
    const asked = { way: "itself", hints: second } as const;
    const part = matteOf(composite, photo, { ...FOUND, matte: "cd".repeat(32) }, asked, null);

    const [ways, several] = cutTries(composite, photo, part, found, []);

    expect(ways?.tries.map(({ title, isChosen }) => [title, isChosen])).toEqual([
      ["By itself", false],
    ]);
    expect(ways?.tries[0]?.edit).toMatchObject({ part: { hints: NO_HINTS } });
    expect(several?.tries.map(({ title, isChosen }) => [title, isChosen])).toEqual([
      ["Only the second", true],
    ]);
  });

  it("keeps what a hand said in every way", () => {
    const stroke = { keeps: true, size: 1, points: [[0, 0] as const] };
    const hints = { ...NO_HINTS, strokes: [stroke], subject: 1 };
    const part = matteOf(composite, photo, FOUND, { way: "itself", hints }, null);

    const asked = requestsFor(part, { [askedKey(BY_ITSELF)]: { ...FOUND, subjects: 2 } }, []);

    expect(asked).toHaveLength(5);
    expect(asked.every(({ request }) => request.hints === hints)).toBe(true);
  });

  it("offers what was found by now, and knows what is chosen", () => {
    const part = matteOf(composite, photo, FOUND, BY_ITSELF, null);
    const gaps = { way: "gaps", hints: NO_HINTS } as const;
    const other = { ...FOUND, matte: "cd".repeat(32) };
    const found = { [askedKey(BY_ITSELF)]: FOUND, [askedKey(gaps)]: other };

    const [ways, ...more] = cutTries(composite, photo, part, found, []);

    expect(ways?.tries.map(({ title, isChosen }) => [title, isChosen])).toEqual([
      ["By itself", true],
      ["Inner gaps too", false],
    ]);
    expect(more).toEqual([]);
  });

  it("offers networks that somebody added, and says what is missing", () => {
    const networks = ["light", "mine"].map((name) => ({ name, title: `The ${name} one` }));
    const last = requestsFor(null, {}, networks).at(-1);

    expect(last).toMatchObject({ title: "By “The mine one”", request: { network: "mine" } });
    expect(missingWords(networks)).toMatch(/small network/);
    expect(missingWords([{ name: "large", title: "" }])).toBeNull();
    expect(missingWords([])).toMatch(/not there/);
  });
});
