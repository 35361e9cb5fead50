/** Where a layer shows on the canvas: asked for again whenever the picture changes. */

import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { askForExtent } from "@/api/calls";
import type { Box } from "@/model/effects";
import { useExtents } from "@/state/extents";
import { useProject } from "@/state/project";

/** Return it; null while it is not known, or where nothing shows. */
export function useExtent(layerId: string): Box | null {
  const known = useProject((project) => project.known);
  const { layer, extent, set } = useExtents();
  const asked = useQuery({
    queryKey: ["extent", known?.id, layerId, known?.head],
    queryFn: () =>
      askForExtent(known?.id ?? "", { revision: known?.head ?? "", layer_id: layerId }),
    enabled: known !== null,
  });
  useEffect(() => {
    const [from, to] = asked.data ?? [];
    if (!asked.data) return;
    const found = from && to ? ([from, to] as const) : null;
    set(layerId, found && [pointOf(found[0]), pointOf(found[1])]);
  }, [asked.data, layerId, set]);
  return layer === layerId ? extent : null;
}

function pointOf([x, y]: readonly [number, number]) {
  return { x, y };
}
