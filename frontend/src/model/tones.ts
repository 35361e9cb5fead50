/** Tones of a layer: which kinds there are, and how the list of them changes. */

import { CURVES_TONE } from "@generated/limits";
import type { Edit, Layer, Tone, TonedLayer } from "@/model/composite";

export type ToneKind = Tone["kind"];
export type ToneOf<Kind extends ToneKind> = Extract<Tone, { kind: Kind }>;

/** Of one curve. */
export const MOST_POINTS = CURVES_TONE.all.maxItems;

export const AS_THEY_ARE = { darkest: 0, middle: 1, lightest: 1, low: 0, high: 1 } as const;
export type Ends = ToneOf<"levels">["all"];
export type CurvePoints = ToneOf<"curves">["all"];
export const STRAIGHT: CurvePoints = [
  [0, 0],
  [1, 1],
];

/** All kinds, by what they are called, and as each one begins. */
export const FRESH_TONES: { readonly [Kind in ToneKind]: ToneOf<Kind> } = {
  light: {
    kind: "light",
    works: true,
    exposure: 0,
    brightness: 0,
    contrast: 0,
    whites: 0,
    blacks: 0,
    shadows: 0,
    highlights: 0,
  },
  levels: {
    kind: "levels",
    works: true,
    all: AS_THEY_ARE,
    red: AS_THEY_ARE,
    green: AS_THEY_ARE,
    blue: AS_THEY_ARE,
  },
  curves: {
    kind: "curves",
    works: true,
    all: STRAIGHT,
    red: STRAIGHT,
    green: STRAIGHT,
    blue: STRAIGHT,
  },
  warmth: { kind: "warmth", works: true, warmth: 0, tint: 0 },
  coloring: { kind: "coloring", works: true, saturation: 0, vibrance: 0, turn: 0 },
  one_hue: {
    kind: "one_hue",
    works: true,
    hue: 29,
    width: 60,
    turn: 0,
    saturation: 0,
    lightness: 0,
  },
  monochrome: {
    kind: "monochrome",
    works: true,
    reds: 0.299,
    yellows: 0.886,
    greens: 0.587,
    cyans: 0.701,
    blues: 0.114,
    magentas: 0.413,
    tint: null,
    tinted: 0.5,
  },
  invert: { kind: "invert", works: true },
  sharpen: { kind: "sharpen", works: true, amount: 0.8, radius: 1.5, threshold: 2 },
  blur: { kind: "blur", works: true, radius: 8 },
  lens: { kind: "lens", works: true, radius: 12, shine: 0.4 },
  clarity: { kind: "clarity", works: true, amount: 0.3, radius: 40 },
  painterly: { kind: "painterly", works: true, brush: 16, detail: 0.5 },
  grain: { kind: "grain", works: true, amount: 0.25, size: 1.5 },
};

/** In the order in which they are offered. */
export const TONE_NAMES: readonly { readonly kind: ToneKind; readonly name: string }[] = [
  { kind: "light", name: "light" },
  { kind: "levels", name: "levels" },
  { kind: "curves", name: "a curve" },
  { kind: "warmth", name: "warmth" },
  { kind: "coloring", name: "colour" },
  { kind: "one_hue", name: "one hue alone" },
  { kind: "monochrome", name: "black and white" },
  { kind: "invert", name: "a negative" },
  { kind: "sharpen", name: "sharpness" },
  { kind: "clarity", name: "clarity" },
  { kind: "blur", name: "a blur" },
  { kind: "lens", name: "out of focus" },
  { kind: "painterly", name: "paint" },
  { kind: "grain", name: "grain" },
];

/** Return a tone of a kind with some of its values set. */
export function freshTone<Kind extends ToneKind>(
  kind: Kind,
  values: Partial<ToneOf<Kind>> = {},
): ToneOf<Kind> {
  return { ...FRESH_TONES[kind], ...values };
}

/** Return which tone is worked on: the one of the open line, or none. */
export function openTonePlace(layer: TonedLayer, line: string | null): number | null {
  const place = Number(line ?? -1);
  return Number.isInteger(place) && place >= 0 && place < layer.tones.length ? place : null;
}

/** Return the edit that gives a layer other tones. */
export function toned(layer: Layer, tones: readonly Tone[]): Edit {
  return { kind: "tone_layer", layer_id: layer.id, tones: [...tones] };
}

/** Return a layer's tones with one exchanged. */
export function withTone(layer: TonedLayer, place: number, tone: Tone): readonly Tone[] {
  return layer.tones.with(place, tone);
}

/** Return a list with what stands at one place moved to before another. */
export function movedTo<T>(list: readonly T[], from: number, to: number): readonly T[] {
  const moved = list[from];
  if (moved === undefined) return list;
  const others = list.filter((_, place) => place !== from);
  return others.toSpliced(to > from ? to - 1 : to, 0, moved);
}
