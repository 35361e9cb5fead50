/** What a layer's mask hides of it, for the layer's thumbnail. */

import { useMemo } from "react";
import { hiddenUrl } from "@/api/calls";
import { type Layer, layerById, type Mask } from "@/model/composite";
import { useProject } from "@/state/project";

/**
 * Return where the picture of what is hidden is; null where nothing can be. It stays the
 * same for as long as the mask does: other changes of the picture need no other one.
 */
export function useHidden({ id }: Layer): string | null {
  const said = useProject(({ known }) => {
    const mask = known ? layerById(known.composite, id)?.mask : undefined;
    if (!known || !mask?.parts.some((part) => part.works)) return null;
    return `${known.id} ${JSON.stringify(mask)} ${readsMore(mask) ? known.head : ""}`;
  });
  return useMemo(() => {
    const { known } = useProject.getState();
    return known && said !== null ? hiddenUrl(known.id, known.head, id) : null;
  }, [said, id]);
}

/** Tell whether a mask follows from more than itself. */
function readsMore(mask: Mask): boolean {
  return !mask.linked || mask.parts.some((part) => part.kind === "layer");
}
