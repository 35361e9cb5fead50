/** Paints the stage: the backing, and on it the newest frame wherever the view is. */

import { requestFrame } from "@/api/calls";
import { closeFrame, decodeFrame, drawFrame, type Frame, NewestOnly } from "@/api/frames";
import type { Canvas, Edit } from "@/model/composite";
import { type FrameArea, frameArea, type Size, type StageView } from "@/model/viewing";
import type { Backing } from "@/state/desk";

export interface Shown {
  readonly projectId: string;
  readonly revision: string;
  readonly unsaved: readonly Edit[];
  readonly canvas: Canvas;
  readonly view: StageView;
  readonly stage: Size;
  readonly pixelRatio: number;
  readonly backing: Backing;
  readonly moving: boolean;
}

interface Held {
  readonly frame: Frame;
  readonly area: FrameArea;
}

const MOVING_DETAIL = 0.5;
const LATTICE_STEP = 9;
const LATTICE_DOT = 1.1;

export class StagePainter {
  readonly #surface: HTMLCanvasElement;
  readonly #requests: NewestOnly<Shown>;
  readonly #onTrouble: (error: unknown) => void;
  #shown: Shown | null = null;
  #held: Held | null = null;
  #lattice: CanvasPattern | null = null;
  /** How many frames have come, and which of them was painted last. */
  #arrived = 0;
  #painted = 0;

  constructor(surface: HTMLCanvasElement, onTrouble: (error: unknown) => void) {
    this.#surface = surface;
    this.#onTrouble = onTrouble;
    this.#requests = new NewestOnly((shown) => this.#fetch(shown));
  }

  /** Show a state: at once with the frame at hand, better when a new one comes. */
  show(shown: Shown, pixelsChanged: boolean): void {
    const before = this.#shown;
    this.#shown = shown;
    // The frame at hand is there already, unless it lies elsewhere now.
    if (!before || looksElsewhere(before, shown)) this.#paint();
    if (pixelsChanged) {
      this.#surface.setAttribute("aria-busy", "true");
      this.#requests.push(shown);
    }
  }

  close(): void {
    this.#shown = null;
    if (this.#held) closeFrame(this.#held.frame);
    this.#held = null;
  }

  async #fetch(shown: Shown): Promise<void> {
    const detail = shown.moving ? MOVING_DETAIL : 1;
    const area = frameArea(shown.view, shown.canvas, shown.stage, shown.pixelRatio, detail);
    if (!area) return this.#settle(shown);
    try {
      const response = await requestFrame(shown.projectId, {
        revision: shown.revision,
        unsaved: shown.unsaved,
        view: { ...area.request, fine: !shown.moving },
      });
      this.#arrived += 1;
      // Not awaited: the next request is under way while this frame is decoded.
      void this.#take(await response.arrayBuffer(), shown, area, this.#arrived);
    } catch (error) {
      this.#onTrouble(error);
    }
  }

  async #take(data: ArrayBuffer, shown: Shown, area: FrameArea, turn: number): Promise<void> {
    try {
      const frame = await decodeFrame(data);
      if (turn < this.#painted || this.#shown === null) return closeFrame(frame);
      this.#painted = turn;
      if (this.#held) closeFrame(this.#held.frame);
      this.#held = { frame, area };
      this.#paint();
      this.#settle(shown);
    } catch (error) {
      this.#onTrouble(error);
    }
  }

  #settle(shown: Shown): void {
    if (shown === this.#shown && !shown.moving) this.#surface.setAttribute("aria-busy", "false");
  }

  #paint(): void {
    const shown = this.#shown;
    const context = this.#surface.getContext("2d", { alpha: true });
    if (!shown || !context) return;
    const { stage, pixelRatio } = shown;
    const width = Math.round(stage.width * pixelRatio);
    const height = Math.round(stage.height * pixelRatio);
    if (this.#surface.width !== width || this.#surface.height !== height) {
      this.#surface.width = width;
      this.#surface.height = height;
    }
    context.clearRect(0, 0, width, height);
    const area = frameArea(shown.view, shown.canvas, stage, pixelRatio, 1);
    if (!area) return;
    context.save();
    context.beginPath();
    context.rect(area.left, area.top, area.width, area.height);
    context.clip();
    context.fillStyle = this.#backing(context, shown);
    context.fillRect(area.left, area.top, area.width, area.height);
    this.#drawHeld(context, shown);
    context.restore();
  }

  /** Draw the frame at hand where the view is now, even if it was made for another. */
  #drawHeld(context: CanvasRenderingContext2D, shown: Shown): void {
    if (!this.#held) return;
    const { frame, area } = this.#held;
    const step = shown.view.scale * shown.pixelRatio;
    const stretch = step / area.request.scale;
    // What moves must come soon; what rests is drawn pixel for pixel.
    context.imageSmoothingQuality = shown.moving ? "low" : "high";
    drawFrame(
      context,
      frame,
      { x: 0, y: 0, width: frame.color.width, height: frame.color.height },
      {
        x: Math.round(-shown.view.x * step) + area.request.x * step,
        y: Math.round(-shown.view.y * step) + area.request.y * step,
        width: frame.color.width * stretch,
        height: frame.color.height * stretch,
      },
    );
  }

  #backing(context: CanvasRenderingContext2D, shown: Shown): string | CanvasPattern {
    if (shown.backing.kind === "color") return shown.backing.color;
    this.#lattice ??= latticeOf(context, shown.pixelRatio);
    return this.#lattice ?? "#e4e1da";
  }
}

function looksElsewhere(before: Shown, after: Shown): boolean {
  return (
    before.view !== after.view ||
    before.stage !== after.stage ||
    before.backing !== after.backing ||
    before.canvas !== after.canvas ||
    before.pixelRatio !== after.pixelRatio
  );
}

/** Small dots on pale grey, for see-through places. */
function latticeOf(context: CanvasRenderingContext2D, pixelRatio: number): CanvasPattern | null {
  const side = Math.round(LATTICE_STEP * pixelRatio);
  const tile = new OffscreenCanvas(side, side);
  const brush = tile.getContext("2d");
  if (!brush) return null;
  brush.fillStyle = "#eceae5";
  brush.fillRect(0, 0, side, side);
  brush.fillStyle = "#a9a59c";
  brush.beginPath();
  brush.arc(side / 2, side / 2, LATTICE_DOT * pixelRatio, 0, 2 * Math.PI);
  brush.fill();
  return context.createPattern(tile, "repeat");
}
