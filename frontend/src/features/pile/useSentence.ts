/** A layer's sentence as the service says it, split by facet for the open sheet. */

import { useMemo } from "react";
import type { Layer } from "@/model/composite";
import type { Facet } from "@/state/desk";
import { type KnownState, useProject } from "@/state/project";

export type SentencePart = KnownState["sheet"][number];

interface LayerWords {
  readonly parts: readonly SentencePart[];
  readonly summaries: Readonly<Record<Facet, string>>;
  /** What each part of its mask is. */
  readonly recipe: readonly string[];
  /** Where each of its fades runs. */
  readonly fades: readonly string[];
}

/** Return what the layer does, in words. */
export function useSentence(layer: Layer): LayerWords {
  const sentences = useProject((project) => project.known?.sentences);
  return useMemo(() => {
    const found = sentences?.find((sentence) => sentence.layer_id === layer.id);
    const parts: readonly SentencePart[] = found?.parts ?? [{ text: layer.name, touch: "name" }];
    const said = (touch: SentencePart["touch"], between: string) =>
      parts
        .filter((part) => part.touch === touch)
        .map((part) => part.text)
        .join(between);
    const summaries = {
      wash: said("wash", ", "),
      place: said("place", ", "),
      cut: said("cut", ", ") || "all of it shown",
      fade: said("fade", ", ") || "not at all",
      blend: said("blend", " at "),
    };
    return { parts, summaries, recipe: found?.recipe ?? [], fades: found?.fades ?? [] };
  }, [sentences, layer.id, layer.name]);
}
