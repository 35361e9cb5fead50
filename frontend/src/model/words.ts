/** Words: how they are set and inked, and the edits that change it. */

import { SETTING } from "@generated/limits";
import type { Canvas, Edit, WordsLayer } from "@/model/composite";
import type { Font } from "@/model/fonts";
import type { Try, TryGroup } from "@/model/tries";

export type Words = WordsLayer["words"];
export type Setting = Words["setting"];
export type Form = Setting["form"];
export type Align = Setting["align"];
export type Feature = Setting["features"][number];
export type Ink = NonNullable<Words["ink"]>;
export type Contour = NonNullable<Words["contour"]>;
export type Panel = NonNullable<Words["panel"]>;

export const LONGEST_TEXT = SETTING.text.maxLength;

/** What is new about some words. */
export interface WordsChange {
  readonly setting?: Partial<Setting>;
  readonly ink?: Ink | null;
  readonly contour?: Contour | null;
  readonly panel?: Panel | null;
}

/** Return the words with something new about them. */
export function changedWords(words: Words, { setting, ...others }: WordsChange): Words {
  return { ...words, ...others, setting: { ...words.setting, ...setting } };
}

/** Return the edit that sets a layer's words anew. */
export function wordsEdit(layer: WordsLayer, change: WordsChange): Edit {
  return { kind: "set_words", layer_id: layer.id, words: changedWords(layer.words, change) };
}

const DARK = "#25221d";
const CREAM = "#f7efdc";
/** Of a fresh line: how much of the shorter side of the sheet its letters take. */
const FRESH_SHARE = 0.09;

/** Return words that say nothing yet, in a size that suits the sheet. */
export function freshWords(
  canvas: Canvas,
  font: Pick<Font, "id" | "name">,
  isOver: boolean,
): Words {
  const size = Math.max(Math.round(Math.min(canvas.width, canvas.height) * FRESH_SHARE), 8);
  return {
    setting: {
      text: "",
      fonts: [{ id: font.id, name: font.name }],
      axes: [],
      size,
      width: null,
      align: "middle",
      letter_gap: 0,
      line_gap: 1.2,
      ligatures: true,
      features: [],
      form: { kind: "straight" },
    },
    ink: { kind: "plain", color: isOver ? CREAM : DARK, opacity: 1 },
    contour: null,
    panel: null,
  };
}

/** Along what lines run, in the order in which it is offered. */
export const FORMS: readonly { readonly id: Form["kind"]; readonly label: string }[] = [
  { id: "straight", label: "straight" },
  { id: "arc", label: "along an arc" },
  { id: "circle", label: "round a circle" },
  { id: "wave", label: "along a wave" },
  { id: "fitted", label: "each line as wide as the block" },
];

export function formWord({ kind }: Form): string {
  return FORMS.find(({ id }) => id === kind)?.label ?? kind;
}

/** From the left edge of a block to where its lines are aligned, as a share of its width. */
export function alignShare(align: Align): number {
  if (align === "middle") return 0.5;
  return align === "right" ? 1 : 0;
}

/** A fresh one of each form; what follows from the block begins as wide as that. */
export function freshForm(kind: Form["kind"], layer: WordsLayer): Form {
  const [left, , right] = layer.measure.block;
  const { size } = layer.words.setting;
  switch (kind) {
    case "arc":
      return { kind, angle: 90 };
    case "circle":
      return { kind, radius: Math.max((right - left) / 4, size), start: 0, inside: false };
    case "wave":
      return { kind, height: 0.25, length: 8, shift: 0 };
    default:
      return { kind };
  }
}

export const FRESH_CONTOUR: Contour = {
  width: 0.04,
  color: "#fbf9f3",
  opacity: 1,
  side: "outside",
  join: "round",
};

export const FRESH_PANEL: Panel = {
  color: "#f5f1e8",
  opacity: 0.85,
  padding: 0.35,
  roundness: 0.15,
  softness: 0,
};

export const FONT_GROUPS: readonly { readonly id: string; readonly title: string }[] = [
  { id: "own", title: "Yours" },
  { id: "plain", title: "Plain" },
  { id: "bookish", title: "Bookish" },
  { id: "slab", title: "Slab" },
  { id: "poster", title: "Poster" },
  { id: "brush", title: "Brush and script" },
  { id: "hand", title: "By hand" },
  { id: "old", title: "Old" },
  { id: "typewriter", title: "Of the typewriter" },
  { id: "round", title: "Round" },
  { id: "narrow", title: "Narrow" },
  { id: "scripts", title: "Other scripts" },
];

/** Return the regular styles that words are tried in: those in use first, then by character. */
export function fontTries(
  layer: WordsLayer,
  fonts: readonly Font[],
  used: ReadonlySet<string>,
  lacking: Readonly<Record<string, string>>,
): readonly TryGroup[] {
  const chosen = layer.words.setting.fonts[0]?.id;
  const offered = fonts.filter((font) => font.is_here && isUsual(font, fonts));
  const tryOf = (font: Font): Try => ({
    id: font.id,
    title: lacking[font.id] ? `${font.name} (lacks ${said(lacking[font.id] ?? "")})` : font.name,
    isChosen: font.id === chosen,
    edit: wordsEdit(layer, { setting: { fonts: [{ id: font.id, name: font.name }], axes: [] } }),
  });
  const inUse = fonts.filter((font) => used.has(font.id));
  const groups = FONT_GROUPS.map(({ id, title }) => ({
    title,
    tries: offered.filter((font) => font.group === id && !used.has(font.id)).map(tryOf),
  }));
  return [{ title: "In this picture", tries: inUse.map(tryOf) }, ...groups].filter(
    ({ tries }) => tries.length > 0,
  );
}

const MOST_SAID = 4;

function said(letters: string): string {
  const shown = [...letters].slice(0, MOST_SAID).join(" ");
  return [...letters].length > MOST_SAID ? `${shown} …` : shown;
}

/** The regular style stands for its family; of own ones each by itself. */
function isUsual(font: Font, fonts: readonly Font[]): boolean {
  if (font.group === "own" || font.style === "regular") return true;
  return !fonts.some((one) => one.family === font.family && one.style === "regular");
}

/** Return the styles of the family that a font belongs to. */
export function stylesOf(fonts: readonly Font[], id: string | undefined): readonly Font[] {
  const font = fonts.find((one) => one.id === id);
  return font ? fonts.filter((one) => one.family === font.family && one.group === font.group) : [];
}
