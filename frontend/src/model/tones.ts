/** Tones of a layer: which kinds there are, and how the list of them changes. */

import * as generated from "@generated/limits";
import type { Edit, Layer, Tone, TonedLayer } from "@/model/composite";

export type ToneKind = Tone["kind"];
export type ToneOf<Kind extends ToneKind> = Extract<Tone, { kind: Kind }>;

/** Of one curve. */
export const MOST_POINTS = generated.CURVES_TONE.all.maxItems;

export type Ends = ToneOf<"levels">["all"];
export type CurvePoints = ToneOf<"curves">["all"];
/** All kinds as each one begins, as the service has it. */
export const FRESH_TONES: { readonly [Kind in ToneKind]: ToneOf<Kind> } = {
  light: generated.LIGHT_TONE_FRESH,
  levels: generated.LEVELS_TONE_FRESH,
  curves: generated.CURVES_TONE_FRESH,
  warmth: generated.WARMTH_TONE_FRESH,
  coloring: generated.COLORING_TONE_FRESH,
  one_hue: generated.ONE_HUE_TONE_FRESH,
  monochrome: generated.MONOCHROME_TONE_FRESH,
  invert: generated.INVERT_TONE_FRESH,
  sharpen: generated.SHARPEN_TONE_FRESH,
  blur: generated.BLUR_TONE_FRESH,
  lens: generated.LENS_TONE_FRESH,
  clarity: generated.CLARITY_TONE_FRESH,
  painterly: generated.PAINTERLY_TONE_FRESH,
  grain: generated.GRAIN_TONE_FRESH,
  match: generated.MATCH_TONE_FRESH,
};

/** Levels that change nothing, and a curve that is straight. */
export const AS_THEY_ARE: Ends = FRESH_TONES.levels.all;
export const STRAIGHT: CurvePoints = FRESH_TONES.curves.all;

/** What their numbers may be. */
export const TONE_LIMITS: { readonly [Kind in ToneKind]?: Readonly<Record<string, object>> } = {
  light: generated.LIGHT_TONE,
  warmth: generated.WARMTH_TONE,
  coloring: generated.COLORING_TONE,
  one_hue: generated.ONE_HUE_TONE,
  monochrome: generated.MONOCHROME_TONE,
  sharpen: generated.SHARPEN_TONE,
  blur: generated.BLUR_TONE,
  lens: generated.LENS_TONE,
  clarity: generated.CLARITY_TONE,
  painterly: generated.PAINTERLY_TONE,
  grain: generated.GRAIN_TONE,
  match: generated.MATCH_TONE,
};

/** In the order in which they are offered; a match is offered by itself. */
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
