/** The rough brush on the stage: strokes, clicks, rings and frames that say what is meant. */

import type { PointerEvent } from "react";
import type { DrawDrag } from "@/features/hand/drawing";
import { mendingNow } from "@/features/hand/mending";
import { goneOn, thinned } from "@/features/hand/roughStroke";
import { stagePoint } from "@/features/hand/useHold";
import { type Composite, isLocked } from "@/model/composite";
import { hasColours } from "@/model/drawing";
import { isRough, owned, pictureLying, roughStroke } from "@/model/mattes";
import type { Point } from "@/model/points";
import { stageToCanvas } from "@/model/viewing";
import { resizeBrush, resized, swapBrush } from "@/state/brush";
import { swapRough, useCutting } from "@/state/cutting";
import { facetFor, useDesk } from "@/state/desk";
import { useMending } from "@/state/mending";
import { openLayer } from "@/work/commands";
import { addRoughStroke, lookInside } from "@/work/cutting/cutOut";
import { viewInForce } from "@/work/zooming";

/** Tell whether a press on the stage says what is meant, instead of taking a layer. */
export function roughNow(): boolean {
  const { facet, line } = useDesk.getState();
  const layer = openLayer();
  return layer !== undefined && facetFor(layer, facet) === "cut" && isRough(layer, line);
}

/** Begin a rough stroke, a ring or a frame. */
export function beginRough(composite: Composite, event: PointerEvent<Element>): DrawDrag | null {
  const layer = openLayer();
  const view = viewInForce();
  if (!layer || !hasColours(layer) || !view || isLocked(composite, layer.id)) return null;
  const { does, size, set } = useCutting.getState();
  const lying = pictureLying(composite, layer);
  const first = stageToCanvas(view, stagePoint(event));
  let points: readonly Point[] = [first];
  set({ trace: points });
  return {
    kind: "draw",
    move: (moved) => {
      const to = stageToCanvas(view, stagePoint(moved));
      if (does === "frame") points = cornersOf(first, to);
      else points = goneOn(points, to, view.scale);
      set({ trace: points });
    },
    end: (desk) => {
      set({ trace: [] });
      const kept = thinned(points);
      if (does === "keep" || does === "drop") {
        addRoughStroke(desk, roughStroke(lying, kept, size, does === "keep"));
      } else if (kept.length >= 3) {
        lookInside(desk, owned(lying, kept));
        set({ does: "keep" });
      }
    },
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
