/** Colours of the picture beneath a layer, to choose from. */

import { useQuery } from "@tanstack/react-query";
import { fetchColors } from "@/api/calls";
import { type Layer, layerById } from "@/model/composite";
import { useProject } from "@/state/project";

const NONE: readonly string[] = [];

/** Return them from dark to light; none until the service has the layer. */
export function useOfferedColors(layer: Layer): readonly string[] {
  const known = useProject((project) => project.known);
  const isKnown = known !== null && layerById(known.composite, layer.id) !== undefined;
  const colors = useQuery({
    queryKey: ["colors", known?.id, known?.head, layer.id],
    queryFn: () => fetchColors(known?.id ?? "", known?.head ?? "", layer.id),
    enabled: isKnown,
    placeholderData: (before) => before,
  });
  return colors.data ?? NONE;
}
