/** A layer's sentence as the service says it, split by facet for the open sheet. */

import { useMemo } from "react";
import type { Layer } from "@/model/composite";
import type { Facet } from "@/state/desk";
import { type KnownState, useProject } from "@/state/project";

export type SentencePart = KnownState["sheet"][number];

interface LayerWords {
  readonly parts: readonly SentencePart[];
  readonly summaries: Readonly<Record<Facet, string>>;
}

/** Return what the layer does, in words. */
export function useSentence(layer: Layer): LayerWords {
  const sentences = useProject((project) => project.known?.sentences);
  return useMemo(() => {
    const found = sentences?.find((sentence) => sentence.layer_id === layer.id)?.parts;
    const parts: readonly SentencePart[] = found ?? [{ text: layer.name, touch: "name" }];
    const said = (touch: SentencePart["touch"], between: string) =>
      parts
        .filter((part) => part.touch === touch)
        .map((part) => part.text)
        .join(between);
    const summaries = {
      wash: said("wash", ", "),
      place: said("place", ", "),
      blend: said("blend", " at "),
    };
    return { parts, summaries };
  }, [sentences, layer.id, layer.name]);
}
