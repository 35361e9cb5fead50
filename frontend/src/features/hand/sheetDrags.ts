/** Dragging the sheet's edges, and drawing a line along what should be level. */

import { type Drag, type Press, type Pull, pulling } from "@/features/hand/drag";
import { leaning, pulledSheet, type SetCanvas, straightened } from "@/model/canvas";
import type { Canvas } from "@/model/composite";
import { type CropGrip, isCropGrip } from "@/model/cropping";
import type { Point } from "@/model/points";
import { proportionOf } from "@/model/proportions";
import { useDesk } from "@/state/desk/desk";
import { useHelping } from "@/state/helping";
import { useShaping } from "@/state/shaping";

/** Begin what a press does while the sheet is open. */
export function pullingTheSheet({ composite, grip, touch, desk }: Press): Drag | undefined {
  if (!useDesk.getState().sheetOpen) return undefined;
  if (useShaping.getState().isLevelling) {
    return pulling(desk, levelPull(composite.canvas, touch.at));
  }
  return isCropGrip(grip) ? pulling(desk, edgePull(composite.canvas, grip)) : undefined;
}

/** A new frame round the picture, which stays until the frame is let go. */
function edgePull(canvas: Canvas, grip: CropGrip): Pull {
  const chosen = proportionOf(useShaping.getState().sheet, canvas, canvas);
  const own = canvas.width / canvas.height;
  let last = unchanged(canvas);
  return {
    edit: ({ at, shiftKey }) => {
      last = pulledSheet(canvas, grip, at, chosen ?? (shiftKey ? own : null));
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
function levelPull(canvas: Canvas, start: Point): Pull {
  let last = start;
  return {
    edit: ({ at }) => {
      last = at;
      useHelping.getState().setLevel([start, at]);
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
