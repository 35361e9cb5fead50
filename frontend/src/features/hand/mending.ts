/** The brush that mends on the stage: a click for a speck, a stroke for a scratch. */

import type { PointerEvent } from "react";
import type { DrawDrag } from "@/features/hand/drawing";
import { goneOn, thinned } from "@/features/hand/roughStroke";
import { stagePoint } from "@/features/hand/useHold";
import { type Composite, isLocked, isMended } from "@/model/composite";
import { isMending, mendEdits, mendsLying } from "@/model/mends";
import { onCanvas } from "@/model/nesting";
import { canPaintAt } from "@/model/strokes";
import { stageToCanvas } from "@/model/viewing";
import { facetFor, useDesk } from "@/state/desk";
import { useMending } from "@/state/mending";
import { useMessages } from "@/state/messages";
import { openLayer } from "@/work/commands";
import { viewInForce } from "@/work/zooming";

/** Tell whether a press on the stage mends. */
export function mendingNow(): boolean {
  const { facet, line } = useDesk.getState();
  const layer = openLayer();
  return layer !== undefined && facetFor(layer, facet) === "cut" && isMending(layer, line);
}

/** Begin to go over what is to be mended. */
export function beginMend(composite: Composite, event: PointerEvent<Element>): DrawDrag | null {
  const layer = openLayer();
  const view = viewInForce();
  if (!isMended(layer) || !view || isLocked(composite, layer.id)) return null;
  const first = stageToCanvas(view, stagePoint(event));
  if (layer.kind === "photo" && !canPaintAt(onCanvas(composite, layer), first)) {
    useMessages.getState().say(`${layer.name} has nothing there to mend.`);
    return null;
  }
  const { size, set } = useMending.getState();
  let points = [first] as readonly (typeof first)[];
  set({ trace: points });
  return {
    kind: "draw",
    move: (moved) => {
      points = goneOn(points, stageToCanvas(view, stagePoint(moved)), view.scale);
      set({ trace: points });
    },
    end: (desk) => {
      set({ trace: [] });
      const lying = mendsLying(composite, layer);
      for (const edit of mendEdits(layer, lying, thinned(points), size)) desk.edit(edit);
    },
  };
}
