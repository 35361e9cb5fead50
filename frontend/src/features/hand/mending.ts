/** The brush that mends on the stage: a click for a speck, a stroke for a scratch. */

import type { Drag, Press } from "@/features/hand/drag";
import { goneOn, thinned } from "@/features/hand/roughStroke";
import { isLocked, isMended } from "@/model/composite";
import { isMending, mendEdits, mendsLying } from "@/model/mends";
import { onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { canPaintAt } from "@/model/strokes";
import { useDesk } from "@/state/desk/desk";
import { facetFor } from "@/state/desk/selection";
import { useMending } from "@/state/mending";
import { useMessages } from "@/state/messages";
import { openLayer } from "@/work/commands";

/** Tell whether a press on the stage mends. */
export function mendingNow(): boolean {
  const { facet, line } = useDesk.getState();
  const layer = openLayer();
  return layer !== undefined && facetFor(layer, facet) === "cut" && isMending(layer, line);
}

/** Begin to go over what is to be mended. */
export function mending({ composite, open, touch, desk }: Press): Drag | null | undefined {
  if (!mendingNow() || touch.altKey) return undefined;
  if (!isMended(open) || isLocked(composite, open.id)) return null;
  const first = touch.at;
  if (open.kind === "photo" && !canPaintAt(onCanvas(composite, open), first)) {
    useMessages.getState().say(`${open.name} has nothing there to mend.`);
    return null;
  }
  const { size, set } = useMending.getState();
  let points: readonly Point[] = [first];
  set({ trace: points });
  return {
    move: ({ at, view }) => {
      points = goneOn(points, at, view.scale);
      set({ trace: points });
    },
    end: () => {
      set({ trace: [] });
      const lying = mendsLying(composite, open);
      for (const edit of mendEdits(open, lying, thinned(points), size)) desk.edit(edit);
    },
    cancel: () => set({ trace: [] }),
  };
}
