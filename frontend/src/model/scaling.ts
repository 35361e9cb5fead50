/** Effects and tones whose lengths grow with what their layer lies in. */

import { SOFT_SHADOW } from "@generated/limits";
import type { Effect, Tone } from "@/model/composite";
import { TONE_LIMITS } from "@/model/tones";

/** Which of their values are lengths. */
const EFFECT_LENGTHS: { readonly [Kind in Effect["kind"]]: readonly string[] } = {
  cast: [],
  soft: ["distance", "softness"],
  outline: ["width", "softness"],
};
const TONE_LENGTHS: { readonly [Kind in Tone["kind"]]?: string } = {
  sharpen: "radius",
  blur: "radius",
  lens: "radius",
  clarity: "radius",
  painterly: "brush",
  grain: "size",
};

interface Limits {
  readonly minimum?: number;
  readonly maximum?: number;
}

export function scaledEffect(effect: Effect, scale: number): Effect {
  const longer = EFFECT_LENGTHS[effect.kind].map((name) => [
    name,
    Math.min(Reflect.get(effect, name) * scale, SOFT_SHADOW.softness.maximum),
  ]);
  return { ...effect, ...Object.fromEntries(longer) };
}

export function scaledTone(tone: Tone, scale: number): Tone {
  const name = TONE_LENGTHS[tone.kind];
  if (!name) return tone;
  const limits = TONE_LIMITS[tone.kind] as Readonly<Record<string, Limits>> | undefined;
  const { minimum = 0, maximum = Number.POSITIVE_INFINITY } = limits?.[name] ?? {};
  const length = Math.min(Math.max(Reflect.get(tone, name) * scale, minimum), maximum);
  return { ...tone, [name]: length };
}
