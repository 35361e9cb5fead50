/** The frame that photos share. */

import type { SetCanvas } from "@/model/canvas";
import { chosenOnCanvas } from "@/model/choosing";
import type { Composite } from "@/model/composite";
import { cornersOf } from "@/model/geometry";

/** The line of Place that lines a photo up with another. */
export const LINING_UP = "lining-up";

/**
 * Return the edit that cuts the canvas to an upright frame which all of several layers
 * fill; null where there is none. Nothing is cut off for good.
 */
export function sharedFrame(composite: Composite, ids: readonly string[]): SetCanvas | null {
  const all = chosenOnCanvas(composite, ids).map(cornersOf);
  // Of each layer's corners the second and third from a side are the inner ones.
  const inner = (values: readonly number[], place: number) =>
    values.toSorted((one, other) => one - other)[place] ?? 0;
  const sides = all.map((corners) => {
    const across = corners.map(({ x }) => x);
    const down = corners.map(({ y }) => y);
    return [inner(across, 1), inner(down, 1), inner(across, 2), inner(down, 2)] as const;
  });
  const { canvas } = composite;
  const left = Math.ceil(Math.max(0, ...sides.map(([x]) => x)) - NEARLY);
  const top = Math.ceil(Math.max(0, ...sides.map(([, y]) => y)) - NEARLY);
  const right = Math.floor(Math.min(canvas.width, ...sides.map(([, , x]) => x)) + NEARLY);
  const bottom = Math.floor(Math.min(canvas.height, ...sides.map(([, , , y]) => y)) + NEARLY);
  if (right - left < 1 || bottom - top < 1) return null;
  return {
    kind: "set_canvas",
    canvas: { ...canvas, width: right - left, height: bottom - top },
    shift_x: -left,
    shift_y: -top,
    scale: 1,
    turn: 0,
  };
}

const NEARLY = 1e-6;
