/** Matching a layer's tones: to what, by which offers, and by pairs of spots. */

import { PAIRS_REQUEST } from "@generated/limits";
import {
  allLayers,
  type Composite,
  isPlaced,
  type Layer,
  type TonedLayer,
} from "@/model/composite";
import type { Point } from "@/model/points";
import { FRESH_TONES, type ToneOf, toned, withTone } from "@/model/tones";
import type { TryGroup } from "@/model/tries";

export interface MatchOffer {
  readonly title: string;
  /** 0.5 or 1. */
  readonly strength: number;
  readonly tone: ToneOf<"match">;
}

/** Spots of the canvas: this should look like that. */
export interface Pair {
  readonly this: Point;
  readonly that: Point;
}

export const MOST_PAIRS = PAIRS_REQUEST.pairs.maxItems;

/** How a match calls what lies behind the layer. */
export const BEHIND = FRESH_TONES.match.to;

/** Return the layers to which another one can be matched. */
export function matchable(composite: Composite, layer: Layer): readonly Layer[] {
  return allLayers(composite.layers).filter((one) => one.id !== layer.id && isPlaced(one));
}

/** Return the layer that a match names; null for what lies behind. */
export function matchedTo(composite: Composite, { to }: ToneOf<"match">): string | null {
  if (to === BEHIND) return null;
  return allLayers(composite.layers).find((one) => one.name === to)?.id ?? null;
}

/** Return the offers as alternatives for one of a layer's tones. */
export function matchTries(
  layer: TonedLayer,
  place: number,
  offers: readonly MatchOffer[],
): TryGroup[] {
  const kept = layer.tones[place];
  const group = (title: string, strength: number): TryGroup => ({
    title,
    tries: offers
      .filter((one) => one.strength === strength)
      .map((one) => ({
        title: one.title,
        id: `${one.title} ${strength}`,
        edit: toned(layer, withTone(layer, place, one.tone)),
        isChosen: isSame(kept, one.tone),
      })),
  });
  return [group("At half strength", 0.5), group("At full strength", 1)];
}

function isSame(kept: TonedLayer["tones"][number] | undefined, tone: ToneOf<"match">): boolean {
  return kept?.kind === "match" && FIELDS.every((field) => kept[field] === tone[field]);
}

const FIELDS = ["light", "warmth", "tint", "contrast", "color"] as const;
