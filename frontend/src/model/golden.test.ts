/** What page and service both reckon agrees: cases are a history that the service wrote. */

import { readFileSync } from "node:fs";
import { expect, test } from "vitest";
import {
  type Composite,
  type Edit,
  isPlaced,
  type Layer,
  layerById,
  membersOf,
} from "@/model/composite";
import { withEdits } from "@/model/expected";
import { gradientOnCanvas, onCanvas } from "@/model/nesting";

interface Step {
  readonly edit: Edit;
  readonly after: Composite;
}

const path = "../tests/golden/version-8.jsonl";
const [begun, ...steps] = readFileSync(path, "utf8")
  .trim()
  .split("\n")
  .map((line): unknown => JSON.parse(line));
const cases = (steps as Step[]).map((step, place) => ({
  ...step,
  before: ((steps as Step[])[place - 1]?.after ?? begun) as Composite,
}));

/** Numbers differ by the last bits, and angles by whole turns, between the two. */
function rounded(value: unknown): unknown {
  const plain = (key: string, inner: unknown) => {
    if (typeof inner !== "number") return inner;
    const turned = key === "angle" || key === "turn" ? ((inner % 360) + 360) % 360 : inner;
    return Math.round(turned * 1e6) / 1e6;
  };
  return JSON.parse(JSON.stringify(value, plain));
}

/** All others, and moves into another group, only the service reckons. */
const EXPECTED = new Set([
  "add_part",
  "blend_layer",
  "change_part",
  "cut_out",
  "drop_mask",
  "fade_layer",
  "move_part",
  "remove_part",
  "settle_mask",
  "grade_layer",
  "lock_layer",
  "move_layer",
  "name_layer",
  "place_layer",
  "place_layers",
  "remove_layer",
  "set_canvas",
  "show_layer",
  "tint_layer",
  "tint_sheet",
]);
const expected = cases.filter(
  ({ edit, before }) => EXPECTED.has(edit.kind) && withEdits(before, [edit]) !== before,
);

test("every kind that the page reckons is among the cases", () => {
  expect(new Set(expected.map(({ edit }) => edit.kind))).toEqual(EXPECTED);
});

test.each(expected)("what is expected of $edit.kind is what the service makes of it", (one) => {
  expect(rounded(withEdits(one.before, [one.edit]))).toEqual(rounded(one.after));
});

const members = cases.flatMap(({ before, edit, after }) => {
  const group = edit.kind === "dissolve_group" ? layerById(before, edit.layer_id) : undefined;
  return (group ? membersOf(group) : []).map((member) => ({
    name: member.name,
    inside: lyingOnCanvas(before, member),
    outside: lyingOnCanvas(after, layerById(after, member.id)),
  }));
});

function lyingOnCanvas(composite: Composite, layer: Layer | undefined): unknown {
  if (isPlaced(layer)) return onCanvas(composite, layer).placement;
  return layer?.kind === "gradient" ? gradientOnCanvas(composite, layer) : null;
}

test("photos, gradients and groups are taken out of groups in the cases", () => {
  expect(members.length).toBeGreaterThan(4);
});

test.each(members)("$name lies on the canvas where it does without its group", (one) => {
  expect(rounded(one.inside)).toEqual(rounded(one.outside));
});
