/** Dragging the sheet's edges, and drawing a line along what should be level. */

import type { OwnDrag } from "@/features/hand/ownDrags";
import { leaning, pulledSheet, type SetCanvas, straightened } from "@/model/canvas";
import type { Canvas, Composite } from "@/model/composite";
import { type CropGrip, isCropGrip } from "@/model/cropping";
import type { Point } from "@/model/points";

import { proportionOf } from "@/model/proportions";
import { useDesk } from "@/state/desk";
import { useHelping } from "@/state/helping";
import { useShaping } from "@/state/shaping";

/** Return what a press does while the sheet is open; null where it does nothing of its own. */
export function sheetDrag(composite: Composite, grip: unknown, start: Point): OwnDrag | null {
  if (!useDesk.getState().sheetOpen) return null;
  if (useShaping.getState().isLevelling) return levelDrag(composite, start);
  if (!isCropGrip(grip)) return null;
  return edgeDrag(composite, grip);
}

/** A new frame round the picture, which stays until the frame is let go. */
function edgeDrag({ canvas }: Composite, grip: CropGrip): OwnDrag {
  const chosen = proportionOf(useShaping.getState().sheet, canvas, canvas);
  const own = canvas.width / canvas.height;
  let last = unchanged(canvas);
  return {
    kind: "own",
    edit: (to, keys) => {
      last = pulledSheet(canvas, grip, to, chosen ?? (keys.shiftKey ? own : null));
      useHelping.getState().setFrame({
        left: -(last.shift_x ?? 0),
        top: -(last.shift_y ?? 0),
        width: last.canvas.width,
        height: last.canvas.height,
      });
      return unchanged(canvas);
    },
    ends: () => {
      useHelping.getState().setFrame(null);
      return last;
    },
  };
}

function unchanged(canvas: Canvas): SetCanvas {
  return { kind: "set_canvas", canvas, shift_x: 0, shift_y: 0, scale: 1, turn: 0 };
}

/** A line along what should be level or upright; what is shown stays until it is let go. */
function levelDrag({ canvas }: Composite, start: Point): OwnDrag {
  let last = start;
  return {
    kind: "own",
    edit: (to) => {
      last = to;
      useHelping.getState().setLevel([start, to]);
      return unchanged(canvas);
    },
    ends: () => {
      useHelping.getState().setLevel(null);
      useShaping.getState().setLevelling(false);
      const turn = leaning(start, last);
      return turn === 0 ? null : straightened(canvas, turn);
    },
  };
}
