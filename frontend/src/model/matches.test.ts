import { expect, test } from "vitest";
import { BEHIND, matchable, matchedTo, matchTries } from "@/model/matches";
import { freshTone } from "@/model/tones";
import { sampleComposite, sampleLayer } from "@/testing/samples";

const half = freshTone("match", { light: 0.2 });
const full = freshTone("match", { light: 0.4 });
const offers = [
  { title: "All of it", strength: 0.5, tone: half },
  { title: "All of it", strength: 1, tone: full },
];
const stage = sampleLayer("stage");
const puppet = sampleLayer("puppet", { tones: [freshTone("invert"), full] });
const composite = sampleComposite(stage, puppet);

test("offers stand in groups by their strength, and the one that is taken is known", () => {
  const groups = matchTries(puppet, 1, offers);
  expect(groups.map(({ title }) => title)).toEqual(["At half strength", "At full strength"]);
  expect(groups.map(({ tries }) => tries.map((one) => one.isChosen))).toEqual([[false], [true]]);
  expect(groups[0]?.tries[0]?.edit).toMatchObject({
    kind: "tone_layer",
    tones: [{ kind: "invert" }, { kind: "match", light: 0.2 }],
  });
  expect(new Set(groups.flatMap(({ tries }) => tries.map((one) => one.id))).size).toBe(2);
});

test("a match finds what it names again, or else what lies behind", () => {
  expect(matchedTo(composite, { ...full, to: "stage" })).toBe("stage");
  expect(matchedTo(composite, { ...full, to: BEHIND })).toBeNull();
  expect(matchedTo(composite, { ...full, to: "gone" })).toBeNull();
});

test("a layer is matched to others, and not to itself", () => {
  expect(matchable(composite, puppet).map(({ id }) => id)).toEqual(["stage"]);
});
