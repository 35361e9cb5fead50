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

const path = "../tests/golden/version-9.jsonl";
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
    // How strokes are called is for the service to say.
    if (key === "last") return null;
    if (typeof inner !== "number") return inner;
    const turned = key === "angle" || key === "turn" ? ((inner % 360) + 360) % 360 : inner;
    return Math.round(turned * 1e6) / 1e6;
  };
  return JSON.parse(JSON.stringify(value, plain));
}

/**
 * Who reckons what comes of an edit before it is answered. The types ask for every kind:
 * a new one has a line here, and where it is the page a case in the history.
 */
const RECKONED: Readonly<Record<Edit["kind"], "page" | "service" | "partly">> = {
  add_color: "service",
  add_gradient: "service",
  add_layer: "service",
  add_mending: "service",
  add_part: "page",
  add_toning: "service",
  add_words: "service",
  align_layers: "service",
  blend_layer: "page",
  change_part: "page",
  color_by_brush: "service",
  copy_fades: "service",
  copy_mask: "service",
  copy_tones: "service",
  cut_out: "page",
  dissolve_group: "service",
  drop_mask: "page",
  duplicate_layer: "service",
  exchange_photo: "service",
  fade_layer: "page",
  grade_layer: "page",
  group_layers: "service",
  link_fade: "service",
  link_mask: "service",
  lock_layer: "page",
  melt_photos: "service",
  mend_photo: "page",
  move_layer: "page",
  move_part: "page",
  name_layer: "page",
  paint_stroke: "page",
  part_match: "service",
  place_layer: "page",
  place_layers: "page",
  remove_layer: "page",
  remove_mend: "page",
  remove_part: "page",
  set_canvas: "page",
  // How large words are follows from fonts, which the page does not read.
  set_words: "partly",
  settle_mask: "page",
  shade_layer: "page",
  show_layer: "page",
  space_layers: "service",
  switch_mend: "page",
  tint_layer: "page",
  tint_sheet: "page",
  tone_layer: "page",
};

// A move into another group only the service reckons.
const isByPage = ({ edit, before }: (typeof cases)[number]) =>
  RECKONED[edit.kind] === "page" && withEdits(before, [edit]) !== before;
const expected = cases.filter(isByPage);

test.each(Object.entries(RECKONED))("%s is reckoned by the %s, and by nobody else", (kind, by) => {
  const mine = cases.filter(({ edit }) => edit.kind === kind);
  if (by === "partly") return;
  if (by === "page") expect(mine.some(isByPage)).toBe(true);
  else for (const { before, edit } of mine) expect(withEdits(before, [edit])).toBe(before);
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

test("words that are set anew are shown as they were asked for, where they lie", () => {
  const mine = cases.filter(({ edit }) => edit.kind === "set_words");
  expect(mine.length).toBeGreaterThan(1);
  for (const { before, edit } of mine) {
    if (edit.kind !== "set_words") continue;
    const layer = layerById(before, edit.layer_id);
    const shown = layerById(withEdits(before, [edit]), edit.layer_id);
    expect(shown).toEqual({ ...layer, words: edit.words });
  }
});
