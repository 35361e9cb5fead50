/** Painting on the stage: from the press of the pointer to the stroke that is sent. */

import type { Drag, Press, Touch } from "@/features/hand/drag";
import { isLocked, isPlaced, type Layer } from "@/model/composite";
import { type Lying, maskLying } from "@/model/lying";
import { EMPTY_MASK } from "@/model/masks";
import { onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import {
  type BrushShape,
  brushPart,
  canPaintAt,
  isFarEnough,
  isFull,
  reachOf,
  strokeEdit,
} from "@/model/strokes";
import { useBrush } from "@/state/brush";
import { useDesk } from "@/state/desk/desk";
import { facetFor } from "@/state/desk/selection";
import { useMessages } from "@/state/messages";
import { openLayer } from "@/work/commands";
import type { DeskActions } from "@/work/DeskContext";

/** What is shown is averaged: so far beyond its reach a stroke may still be seen. */
const SPARE = 1;

/** Where the last stroke ended: with Shift the next one begins there. */
let lastEnd: { readonly layer: string; readonly at: Point } | null = null;

/** Return the part that the brush paints in now, if the brush is in the hand. */
export function paintedNow(): string | null {
  const { facet, line } = useDesk.getState();
  const layer = openLayer();
  return layer && facetFor(layer, facet) === "cut" ? brushPart(layer, line) : null;
}

/** Begin a stroke, unless the layer has nothing there. */
export function painting({ composite, open, touch, desk }: Press): Drag | null | undefined {
  const part = paintedNow();
  if (!open || !part || touch.altKey) return undefined;
  if (isLocked(composite, open.id)) return null;
  const shown = isPlaced(open) ? onCanvas(composite, open) : open;
  if (!canPaintAt(shown, touch.at)) {
    useMessages.getState().say(`${open.name} has nothing there to hide or show.`);
    return null;
  }
  const lying = maskLying(composite, open, open.mask ?? EMPTY_MASK);
  return strokeDrag({ layer: open, part, lying, brush: useBrush.getState(), desk }, touch);
}

interface Painted {
  readonly layer: Layer;
  readonly part: string;
  readonly lying: Lying;
  /** As it was when the stroke began: what is set meanwhile is for the next one. */
  readonly brush: BrushShape & { readonly size: number };
  readonly desk: DeskActions;
}

function strokeDrag({ layer, part, lying, brush, desk }: Painted, touch: Touch): Drag {
  const { setLive, openLine } = useDesk.getState().actions;
  const { at, pressure } = touch;
  const joins = touch.shiftKey && lastEnd?.layer === layer.id;
  let points = [...(joins && lastEnd ? [{ at: lastEnd.at, pressure }] : []), { at, pressure }];
  /** Another one for each piece that is sent. */
  let piece = {};
  const editOf = () => strokeEdit(layer, part, lying, points, brush);
  const show = () => {
    const edit = editOf();
    const reach = edit.stroke ? reachOf(lying, edit.stroke) + SPARE : 0;
    setLive(edit, { stroke: piece, points: points.map((one) => one.at), reach, edit });
  };
  show();
  return {
    move: ({ way }) => {
      for (const touched of way) {
        if (!isFarEnough(points.at(-1)?.at, touched.at, brush.size)) continue;
        points.push(touched);
        const edit = editOf();
        if (edit.stroke && isFull(edit.stroke)) {
          desk.edit(edit);
          points = points.slice(-1);
          piece = {};
        }
      }
      show();
    },
    end: () => {
      desk.edit(editOf());
      const end = points.at(-1);
      lastEnd = end ? { layer: layer.id, at: end.at } : null;
      setLive(null);
      openLine(part);
    },
    cancel: () => setLive(null),
  };
}
