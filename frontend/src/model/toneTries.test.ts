import { expect, test } from "vitest";
import type { Edit, Tone, ToningLayer } from "@/model/composite";
import { FRESH_TONES, freshTone, movedTo, openTonePlace } from "@/model/tones";
import { toneTries } from "@/model/toneTries";
import { sampleLayer } from "@/testing/samples";

const SHEET = { width: 1000, height: 600 };

function tonesOf(edit: Edit): readonly Tone[] {
  return edit.kind === "tone_layer" ? edit.tones : [];
}

function tryNamed(layer: ReturnType<typeof sampleLayer> | ToningLayer, title: string) {
  const tries = toneTries(layer, SHEET).flatMap((group) => group.tries);
  const found = tries.find((one) => one.title === title);
  if (!found) throw new Error(`There is no ${title}.`);
  return found;
}

test("every start has a name of its own and makes something of a layer", () => {
  const tries = toneTries(sampleLayer("moths"), SHEET).flatMap((group) => group.tries);
  const [none, ...starts] = tries;

  expect(new Set(tries.map((one) => one.title)).size).toBe(tries.length);
  expect(none?.isChosen).toBe(true);
  for (const start of starts) expect(tonesOf(start.edit).length).toBeGreaterThan(0);
});

test("a start comes after the tones that a person has set", () => {
  const own = freshTone("light", { exposure: 1 });
  const warm = tryNamed(sampleLayer("moths", { tones: [own] }), "Warm");

  expect(tonesOf(warm.edit).map((tone) => tone.kind)).toEqual(["light", "warmth"]);
});

test("another start takes the place of the one before, in whatever order values come", () => {
  const own = freshTone("light", { exposure: 1 });
  const { kind, ...rest } = freshTone("warmth", { warmth: 30 });
  const layer = sampleLayer("moths", { tones: [own, { ...rest, kind }] });

  expect(tryNamed(layer, "Warm").isChosen).toBe(true);
  expect(tonesOf(tryNamed(layer, "Cool").edit)).toEqual([
    own,
    freshTone("warmth", { warmth: -30 }),
  ]);
  expect(tonesOf(tryNamed(layer, "Without").edit)).toEqual([own]);
});

test("lengths of starts follow the size of what they tone", () => {
  const brush = (layer: Parameters<typeof tryNamed>[0]) => {
    const [tone] = tonesOf(tryNamed(layer, "Painted").edit);
    return tone?.kind === "painterly" ? tone.brush : null;
  };
  const { picture: _, width: _w, height: _h, placement: _p, ...shared } = sampleLayer("all");

  expect(brush(sampleLayer("a", { width: 4000, height: 3000 }))).toBe(30);
  expect(brush(sampleLayer("a", { width: 40, height: 30 }))).toBe(2);
  expect(brush({ ...shared, kind: "toning" })).toBe(6);
});

test("the open line is a tone's place, and nothing else is", () => {
  const layer = sampleLayer("a", { tones: [FRESH_TONES.invert, FRESH_TONES.blur] });

  expect(openTonePlace(layer, "1")).toBe(1);
  for (const line of [null, "2", "-1", "0.5", "crop"])
    expect(openTonePlace(layer, line)).toBe(null);
});

test("a line is moved before another, or to the end", () => {
  expect(movedTo(["a", "b", "c"], 0, 2)).toEqual(["b", "a", "c"]);
  expect(movedTo(["a", "b", "c"], 0, 3)).toEqual(["b", "c", "a"]);
  expect(movedTo(["a", "b", "c"], 2, 0)).toEqual(["c", "a", "b"]);
  expect(movedTo(["a"], 3, 0)).toEqual(["a"]);
});
