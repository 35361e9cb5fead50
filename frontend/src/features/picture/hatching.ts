/** Violet slanted lines over what a mask hides. */

import type { Frame } from "@/api/frames";

const VIOLET = "#5b3fa6";
/** How far apart the lines lie, in pixels of the screen, and how thick they are. */
const STEP = 9;
const THICK = 1.6;
const STRONG = 0.8;
const NOWHERE = { x: 0, y: 0 };

/**
 * Return lines wherever a frame shows something, as a frame of their own; `detail` is
 * how many of its pixels lie on one of the stage. It may be a part of a larger one that
 * begins at `origin` there: the lines go on from one part to the next.
 */
export async function hatched(hidden: Frame, detail: number, origin: Origin): Promise<Frame> {
  const { width, height } = hidden.color;
  const shares = new OffscreenCanvas(width, height);
  const context = shares.getContext("2d");
  if (!context) return { color: hidden.color, veil: null };
  // White where all of the layer is hidden: what the veil says the other way round.
  fill(context, "#ffffff");
  if (hidden.veil) {
    context.globalCompositeOperation = "difference";
    context.drawImage(hidden.veil, 0, 0);
  }
  context.globalCompositeOperation = "multiply";
  context.translate(-origin.x, -origin.y);
  fill(context, stripes(context, detail), origin);
  context.resetTransform();
  const lines = new OffscreenCanvas(width, height);
  const brush = lines.getContext("2d");
  if (!brush) return { color: hidden.color, veil: null };
  brush.drawImage(shares, 0, 0);
  brush.globalCompositeOperation = "multiply";
  fill(brush, VIOLET);
  context.globalCompositeOperation = "difference";
  fill(context, "#ffffff");
  const [color, veil] = await Promise.all([createImageBitmap(lines), createImageBitmap(shares)]);
  return { color, veil };
}

type Context = OffscreenCanvasRenderingContext2D;

interface Origin {
  readonly x: number;
  readonly y: number;
}

function fill(context: Context, style: string | CanvasPattern, { x, y }: Origin = NOWHERE): void {
  context.fillStyle = style;
  context.fillRect(x, y, context.canvas.width, context.canvas.height);
}

/** Light lines on black. */
function stripes(context: Context, detail: number): CanvasPattern | string {
  const side = Math.max(3, Math.round(STEP * detail));
  const tile = new OffscreenCanvas(side, side);
  const brush = tile.getContext("2d");
  if (!brush) return "#000000";
  fill(brush, "#000000");
  brush.strokeStyle = `rgb(255 255 255 / ${STRONG * 100}%)`;
  brush.lineWidth = Math.max(THICK * detail, 1);
  for (const shift of [-side, 0, side]) {
    brush.beginPath();
    brush.moveTo(shift - 1, side + 1);
    brush.lineTo(shift + side + 1, -1);
    brush.stroke();
  }
  return context.createPattern(tile, "repeat") ?? "#000000";
}
