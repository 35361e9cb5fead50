/** A layer's sentence as the service says it, split by facet for the open sheet. */

import { useMemo } from "react";
import type { Layer } from "@/model/composite";
import type { Facet } from "@/state/desk/selection";
import { type KnownState, useProject } from "@/state/project";

export type SentencePart = KnownState["sheet"][number];

type Touch = SentencePart["touch"];

/** All that the Place facet tells. */
const PLACING: readonly Touch[] = ["place", "crop", "corners", "bend"];

interface LayerWords {
  readonly parts: readonly SentencePart[];
  /** Its name, and what no facet tells: that it is hidden, or of how many layers. */
  readonly head: readonly SentencePart[];
  readonly summaries: Readonly<Record<Facet, string>>;
  /** What each part of its mask is. */
  readonly recipe: readonly string[];
  /** Where each of its fades runs. */
  readonly fades: readonly string[];
  /** What each of its tones does. */
  readonly tones: readonly string[];
  /** What each of its mended places was. */
  readonly mends: readonly string[];
  /** What each of its effects is. */
  readonly effects: readonly string[];
}

const HEAD: ReadonlySet<Touch> = new Set(["name", "kind", "shown", "lock"]);

function headOf(parts: readonly SentencePart[]): readonly SentencePart[] {
  return parts
    .filter(({ touch }) => HEAD.has(touch))
    .flatMap((part, place) => (place > 0 ? [{ text: ", ", touch: "words" }, part] : [part]));
}

/** Return what the layer does, in words. */
export function useSentence(layer: Layer): LayerWords {
  const found = useProject((project) =>
    project.known?.sentences.find((sentence) => sentence.layer_id === layer.id),
  );
  return useMemo(() => {
    const parts: readonly SentencePart[] = found?.parts ?? [{ text: layer.name, touch: "name" }];
    const said = (touch: Touch | readonly Touch[], between: string) =>
      parts
        .filter((part) => [touch].flat().includes(part.touch))
        .map((part) => part.text)
        .join(between);
    const summaries = {
      lettering: said("lettering", ", "),
      wash: said("wash", ", "),
      place: said(PLACING, ", "),
      cut: said("cut", ", ") || "all of it shown",
      fade: said("fade", ", ") || "not at all",
      blend: said("blend", " at ") || "shown plainly",
      tone: said("tone", ", ") || "as it is",
      shadow: said("shadow", ", ") || "none",
    };
    const { recipe = [], fades = [], tones = [], mends = [], effects = [] } = found ?? {};
    return { parts, head: headOf(parts), summaries, recipe, fades, tones, mends, effects };
  }, [found, layer.name]);
}
