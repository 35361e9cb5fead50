/** The rough brush on the stage: strokes, clicks, rings and frames that say what is meant. */

import type { Drag, Press } from "@/features/hand/drag";
import { mendingNow } from "@/features/hand/mending";
import { goneOn, thinned } from "@/features/hand/roughStroke";
import { isLocked } from "@/model/composite";
import { hasColours } from "@/model/drawing";
import { isRough, owned, pictureLying, roughStroke } from "@/model/mattes";
import type { Point } from "@/model/points";
import { resizeBrush, resized, swapBrush } from "@/state/brush";
import { swapRough, useCutting } from "@/state/cutting";
import { useDesk } from "@/state/desk/desk";
import { facetFor } from "@/state/desk/selection";
import { useMending } from "@/state/mending";
import { openLayer } from "@/work/commands";
import { addRoughStroke, lookInside } from "@/work/cutting/cutOut";

/** Tell whether a press on the stage says what is meant, instead of taking a layer. */
export function roughNow(): boolean {
  const { facet, line } = useDesk.getState();
  const layer = openLayer();
  return layer !== undefined && facetFor(layer, facet) === "cut" && isRough(layer, line);
}

/** Begin a rough stroke, a ring or a frame. */
export function roughing({ composite, open, touch, desk }: Press): Drag | null | undefined {
  if (!roughNow() || touch.altKey) return undefined;
  if (!open || !hasColours(open) || isLocked(composite, open.id)) return null;
  const { does, size, set } = useCutting.getState();
  const lying = pictureLying(composite, open);
  const first = touch.at;
  let points: readonly Point[] = [first];
  set({ trace: points });
  return {
    move: ({ at, view }) => {
      points = does === "frame" ? cornersOf(first, at) : goneOn(points, at, view.scale);
      set({ trace: points });
    },
    end: () => {
      set({ trace: [] });
      const kept = thinned(points);
      if (does === "keep" || does === "drop") {
        addRoughStroke(desk, roughStroke(lying, kept, size, does === "keep"));
      } else if (kept.length >= 3) {
        lookInside(desk, owned(lying, kept));
        set({ does: "keep" });
      }
    },
    cancel: () => set({ trace: [] }),
  };
}

function cornersOf(from: Point, to: Point): Point[] {
  return [from, { x: to.x, y: from.y }, to, { x: from.x, y: to.y }];
}

/** Make what is in the hand wider or narrower: the rough brush, the one that mends, or the one that hides. */
export function resizeHeld(steps: number): void {
  const held = roughNow() ? useCutting.getState() : mendingNow() ? useMending.getState() : null;
  if (held) held.set({ size: resized(held.size, steps) });
  else resizeBrush(steps);
}

/** Let what is in the hand do the other of the two. */
export function swapHeld(): void {
  if (roughNow()) swapRough();
  else swapBrush();
}
