/** What is offered and changed of words, and where their knobs lead. */

import { expect, test } from "vitest";
import type { WordsLayer } from "@/model/composite";
import type { Font } from "@/model/fonts";
import { draggedWords, wordsGrips } from "@/model/lettering";
import { boundsOf } from "@/model/snapping";
import {
  alignShare,
  changedWords,
  fontTries,
  freshForm,
  freshWords,
  stylesOf,
  wordsEdit,
} from "@/model/words";
import { sampleComposite, samplePlacement, sampleWords } from "@/testing/samples";

const font = (name: string, changes: Partial<Font> = {}): Font => ({
  id: name,
  name,
  family: name,
  style: "regular",
  group: "plain",
  is_here: true,
  ...changes,
});

const layerIn = (setting: Partial<WordsLayer["words"]["setting"]>): WordsLayer => {
  const layer = sampleWords("title", "Moths");
  return { ...layer, words: changedWords(layer.words, { setting }) };
};

test("fresh words suit the sheet, and can be told from what they lie on", () => {
  const { canvas } = sampleComposite();
  const large = freshWords({ ...canvas, width: 3000, height: 2000 }, font("A"), true);
  expect(large.setting.size).toBe(180);
  expect(large.ink).toMatchObject({ color: "#f7efdc" });
  const tiny = freshWords({ ...canvas, width: 20, height: 20 }, font("A"), false);
  expect(tiny.setting.size).toBe(8);
  expect(tiny.ink).toMatchObject({ color: "#25221d" });
});

test("a change of words leaves all else as it is", () => {
  const layer = sampleWords("title", "Moths");
  const edit = wordsEdit(layer, { setting: { text: "Moth" }, panel: null });
  expect(edit).toMatchObject({ kind: "set_words", layer_id: "title" });
  const changed = changedWords(layer.words, { setting: { text: "Moth" } });
  expect(changed).toEqual({
    ...layer.words,
    setting: { ...layer.words.setting, text: "Moth" },
  });
});

test("fonts in use come first, then by character; what lacks letters says so", () => {
  const layer = layerIn({ fonts: [{ id: "B", name: "B" }] });
  const fonts = [
    font("A"),
    font("B"),
    font("B bold", { family: "B", style: "bold" }),
    font("C", { group: "brush" }),
    font("Away", { is_here: false }),
    font("Mine", { group: "own", style: "Book" }),
  ];
  const groups = fontTries(layer, fonts, new Set(["B"]), { C: "éèêëā" });
  expect(groups.map(({ title, tries }) => [title, tries.map((one) => one.title)])).toEqual([
    ["In this picture", ["B"]],
    ["Yours", ["Mine"]],
    ["Plain", ["A"]],
    ["Brush and script", ["C (lacks é è ê ë …)"]],
  ]);
  expect(groups[0]?.tries[0]?.isChosen).toBe(true);
  expect(stylesOf(fonts, "B").map(({ name }) => name)).toEqual(["B", "B bold"]);
  expect(stylesOf(fonts, "gone")).toEqual([]);
});

test("a block is pulled wider by the sides that do not stay", () => {
  const at = (x: number) => ({ x, y: 50 });
  const wide = (align: "left" | "middle" | "right", grip: "block-left" | "block-right") => {
    const edit = draggedWords(layerIn({ align }), grip, at(0), at(30));
    return edit.kind === "set_words" ? edit.words.setting.width : null;
  };
  // The block of the sample is 200 wide.
  expect(wide("left", "block-right")).toBe(230);
  expect(wide("middle", "block-right")).toBe(260);
  expect(wide("right", "block-left")).toBe(170);
  expect(wordsGrips(layerIn({ align: "left" })).map(({ grip }) => grip)).toEqual(["block-right"]);
  expect(wordsGrips(layerIn({ align: "middle" })).map(({ grip }) => grip)).toEqual([
    "block-left",
    "block-right",
  ]);
  const narrowest = draggedWords(layerIn({ align: "left" }), "block-right", at(0), at(-900));
  expect(narrowest.kind === "set_words" && narrowest.words.setting.width).toBe(1);
});

test("forms are bent by their knob, within what the service takes", () => {
  const formAfter = (
    kind: "arc" | "wave" | "circle",
    from: [number, number],
    to: [number, number],
  ) => {
    const layer = layerIn({ form: freshForm(kind, sampleWords("title", "Moths")) });
    const [start, end] = [from, to].map(([x, y]) => ({ x, y })) as [Point, Point];
    const edit = draggedWords(layer, "form", start, end);
    return edit.kind === "set_words" ? edit.words.setting.form : null;
  };
  // 8 s / w, with s = 10 and w = 200: 0.4 radians.
  expect(formAfter("arc", [100, 50], [100, 40])).toMatchObject({
    angle: expect.closeTo(90 + 22.9, 1),
  });
  expect(formAfter("arc", [100, 50], [100, -9000])).toMatchObject({ angle: 360 });
  expect(formAfter("wave", [100, 50], [100, 30])).toMatchObject({ height: expect.closeTo(0.45) });
  const turned = formAfter("circle", [110, 0], [220, 60]);
  expect(turned).toMatchObject({ start: expect.closeTo(90), kind: "circle" });
});

interface Point {
  readonly x: number;
  readonly y: number;
}

test("lines are aligned at a share of their block", () => {
  expect(["left", "both", "middle", "right"].map((one) => alignShare(one as "left"))).toEqual([
    0, 0, 0.5, 1,
  ]);
});

test("words come to rest by their capitals and their baseline, on a panel by that", () => {
  const layer = { ...sampleWords("title", "Moths"), placement: samplePlacement({ x: 110, y: 60 }) };
  const rounded = Object.values(boundsOf(layer)).map((side) => Math.round(side * 1e6) / 1e6);
  expect(rounded).toEqual([10, 20, 210, 90]);
  const panel = { color: "#ffffff", opacity: 1, padding: 0.1, roundness: 0, softness: 0 };
  const onPanel = { ...layer, words: { ...layer.words, panel } };
  expect(boundsOf(onPanel)).toEqual({ left: 0, top: 0, right: 220, bottom: 120 });
});
