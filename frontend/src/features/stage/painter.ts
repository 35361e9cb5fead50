/** Paints the stage: the backing, and on it the newest frame wherever the view is. */

import { requestFrame } from "@/api/calls";
import { closeFrame, decodeFrame, drawFrame, type Frame, NewestOnly } from "@/api/frames";
import type { FrameView } from "@/api/types";
import { hatched } from "@/features/stage/hatching";
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
  /** The layer whose hidden parts are hatched. */
  readonly hatched: string | null;
  /** The layer whose mask is shown alone. */
  readonly maskOf: string | null;
}

interface Held {
  readonly frame: Frame;
  readonly area: FrameArea;
  /** What the open layer's mask hides, to be hatched. */
  readonly hidden: Frame | null;
  readonly lines: Frame | null;
}

interface Place {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

const MOVING_DETAIL = 0.5;
/** Less than this of a pixel is not seen. */
const SLIVER = 0.01;
/** How much of what a mask hides is still seen beneath the hatching. */
const DIMMED = 0.45;
const LATTICE_STEP = 9;
const LATTICE_DOT = 1.1;

export class StagePainter {
  readonly #surface: HTMLCanvasElement;
  readonly #requests: NewestOnly<Shown>;
  readonly #onTrouble: (error: unknown) => void;
  #shown: Shown | null = null;
  #held: Held | null = null;
  #lattice: CanvasPattern | null = null;
  #latticeRatio = 0;
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
    letGo(this.#held);
    this.#held = null;
  }

  async #fetch(shown: Shown): Promise<void> {
    const detail = shown.moving ? MOVING_DETAIL : 1;
    const area = frameArea(shown.view, shown.canvas, shown.stage, shown.pixelRatio, detail);
    if (!area) return this.#settle(shown);
    try {
      const { hatched } = shown;
      const ask = async (view: FrameView) => {
        const { projectId, revision, unsaved } = shown;
        return (await requestFrame(projectId, { revision, unsaved, view })).arrayBuffer();
      };
      const view = { ...area.request, fine: !shown.moving, mask_of: shown.maskOf };
      const [data, hidden] = await Promise.all([
        ask(view),
        hatched === null ? null : ask({ ...view, fine: false, hidden_of: hatched }),
      ]);
      this.#arrived += 1;
      // Not awaited: the next request is under way while this frame is decoded.
      void this.#take([data, hidden], shown, area, this.#arrived);
    } catch (error) {
      this.#giveUp(shown, error);
    }
  }

  /** A frame that did not come, or that is none, is not waited for any longer. */
  #giveUp(shown: Shown, error: unknown): void {
    this.#settle(shown);
    this.#onTrouble(error);
  }

  async #take(
    [data, veiled]: readonly [ArrayBuffer, ArrayBuffer | null],
    shown: Shown,
    area: FrameArea,
    turn: number,
  ): Promise<void> {
    try {
      const [frame, hidden] = await Promise.all([
        decodeFrame(data),
        veiled ? decodeFrame(veiled) : null,
      ]);
      const detail = (area.request.width / area.width) * shown.pixelRatio;
      const lines = hidden && (await hatched(hidden, detail));
      const came = { frame, area, hidden, lines };
      if (turn < this.#painted || this.#shown === null) return letGo(came);
      this.#painted = turn;
      letGo(this.#held);
      this.#held = came;
      this.#paint();
      this.#settle(shown);
    } catch (error) {
      this.#giveUp(shown, error);
    }
  }

  #settle(shown: Shown): void {
    if (shown === this.#shown && !shown.moving) this.#surface.setAttribute("aria-busy", "false");
  }

  #paint(): void {
    const shown = this.#shown;
    const context = this.#surface.getContext("2d", { alpha: true });
    if (!shown || !context) return;
    this.#fit(shown);
    context.clearRect(0, 0, this.#surface.width, this.#surface.height);
    const area = frameArea(shown.view, shown.canvas, shown.stage, shown.pixelRatio, 1);
    if (!area) return;
    context.save();
    context.beginPath();
    context.rect(area.left, area.top, area.width, area.height);
    context.clip();
    const held = this.#held && { ...this.#held, to: placeOf(this.#held.area, shown) };
    // Filling what an opaque frame hides would cost as much as the frame itself.
    if (!held || held.frame.veil || !covers(held.to, area)) {
      context.fillStyle = this.#backing(context, shown);
      context.fillRect(area.left, area.top, area.width, area.height);
    }
    if (held) {
      // What moves must come soon; what rests is drawn pixel for pixel.
      context.imageSmoothingQuality = shown.moving ? "low" : "high";
      drawHeld(context, held, held.to);
    }
    context.restore();
  }

  #fit({ stage, pixelRatio }: Shown): void {
    const width = Math.round(stage.width * pixelRatio);
    const height = Math.round(stage.height * pixelRatio);
    if (this.#surface.width !== width || this.#surface.height !== height) {
      this.#surface.width = width;
      this.#surface.height = height;
    }
  }

  #backing(context: CanvasRenderingContext2D, shown: Shown): string | CanvasPattern {
    if (shown.backing.kind === "color") return shown.backing.color;
    if (this.#latticeRatio !== shown.pixelRatio) {
      this.#lattice = latticeOf(context, shown.pixelRatio);
      this.#latticeRatio = shown.pixelRatio;
    }
    return this.#lattice ?? "#e4e1da";
  }
}

function drawHeld(context: CanvasRenderingContext2D, held: Held, to: Place): void {
  const { width, height } = held.frame.color;
  const from = { x: 0, y: 0, width, height };
  drawFrame(context, held.frame, from, to);
  if (!held.hidden || !held.lines) return;
  context.globalAlpha = DIMMED;
  drawFrame(context, held.hidden, from, to);
  context.globalAlpha = 1;
  drawFrame(context, held.lines, from, to);
}

function letGo(held: Held | null): void {
  for (const frame of [held?.frame, held?.hidden, held?.lines]) if (frame) closeFrame(frame);
}

/** Where a frame lies on the surface now, even if it was made for another view. */
function placeOf(area: FrameArea, shown: Shown): Place {
  const step = shown.view.scale * shown.pixelRatio;
  const stretch = step / area.request.scale;
  return {
    x: Math.round(-shown.view.x * step) + area.request.x * step,
    y: Math.round(-shown.view.y * step) + area.request.y * step,
    width: area.request.width * stretch,
    height: area.request.height * stretch,
  };
}

function covers(place: Place, area: FrameArea): boolean {
  return (
    place.x - SLIVER <= area.left &&
    place.y - SLIVER <= area.top &&
    place.x + place.width + SLIVER >= area.left + area.width &&
    place.y + place.height + SLIVER >= area.top + area.height
  );
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
