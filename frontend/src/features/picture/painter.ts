/** Paints the stage: the backing, and on it the newest frame wherever the view is. */

import { requestFrame } from "@/api/calls";
import { closeFrame, decodeFrames, drawFrame, NewestOnly } from "@/api/frames";
import type { FrameView } from "@/api/types";
import {
  type Asked,
  basisOf,
  type Look,
  lookOf,
  type Part,
  partToAsk,
  patched,
  requestOf,
} from "@/features/picture/patching";
import type { Shown } from "@/features/picture/shown";
import { Pace } from "@/model/pacing";
import { type FrameArea, frameArea } from "@/model/viewing";
import { useShowing } from "@/state/showing";
import { readCounts, useToning } from "@/state/toning";

interface Held extends Look {
  readonly area: FrameArea;
  readonly basis: readonly unknown[];
}

type Fineness = NonNullable<FrameView["fineness"]>;

/** A state, and how near to the export its frame shall be. */
interface Wanted {
  readonly shown: Shown;
  readonly fineness: Fineness;
}

/** What came of one request: a frame, or a part of one. */
interface Answer {
  readonly data: ArrayBuffer;
  readonly wanted: Wanted;
  readonly asked: Asked;
  readonly part: Part | null;
  readonly turn: number;
  /** Ends once all that was asked for before it is painted. */
  readonly before: Promise<void>;
}

interface Place {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** How long a picture rests before it is asked for exactly, in milliseconds. */
const AT_REST = 120;
/** Less than this of a pixel is not seen. */
const SLIVER = 0.01;
/** How much of what a mask hides is still seen beneath the hatching. */
const DIMMED = 0.45;
const LATTICE_STEP = 9;
const LATTICE_DOT = 1.1;

export class StagePainter {
  readonly #surface: HTMLCanvasElement;
  readonly #requests: NewestOnly<Wanted>;
  readonly #onTrouble: (error: unknown) => void;
  readonly #pace = new Pace();
  #shown: Shown | null = null;
  /** The state that the newest frame was asked for. */
  #awaited: Shown | null = null;
  #resting: ReturnType<typeof setTimeout> | undefined;
  #held: Held | null = null;
  #lattice: CanvasPattern | null = null;
  #latticeRatio = 0;
  /** How many frames have come, and which of them was painted last. */
  #arrived = 0;
  #painted = 0;
  #asked: Asked | null = null;
  #taking: Promise<void> = Promise.resolve();
  /** Whether the newest frame that was asked for did not come. */
  #isMissing = false;

  constructor(surface: HTMLCanvasElement, onTrouble: (error: unknown) => void) {
    this.#surface = surface;
    this.#onTrouble = onTrouble;
    this.#requests = new NewestOnly((wanted) => this.#fetch(wanted));
  }

  /** Show a state: at once with the frame at hand, better when a new one comes. */
  show(shown: Shown, pixelsChanged: boolean): void {
    const before = this.#shown;
    this.#shown = shown;
    // The frame at hand is there already, unless it lies elsewhere now.
    if (!before || looksElsewhere(before, shown)) this.#paint();
    if (pixelsChanged) this.#request(shown);
  }

  /** Ask once more for a frame that did not come. */
  retry(): void {
    if (this.#isMissing && this.#shown) this.#request(this.#shown);
  }

  close(): void {
    clearTimeout(this.#resting);
    this.#shown = null;
    this.#awaited = null;
    letGo(this.#held);
    this.#held = null;
  }

  #request(shown: Shown): void {
    clearTimeout(this.#resting);
    this.#awaited = shown;
    this.#isMissing = false;
    this.#surface.setAttribute("aria-busy", "true");
    this.#requests.push({ shown, fineness: firstFineness(shown) });
  }

  async #fetch(wanted: Wanted): Promise<void> {
    const { shown } = wanted;
    const detail = shown.moving ? this.#pace.detail : 1;
    const area = frameArea(shown.view, shown.canvas, shown.stage, shown.pixelRatio, detail);
    if (!area) return this.#settle(shown);
    const part = partToAsk(this.#asked, shown, area);
    const asked = askedOf(shown, area, part ? this.#asked?.basis : undefined);
    this.#asked = asked;
    const began = performance.now();
    try {
      const { data, isRough, counts } = await ask(
        wanted,
        part ? requestOf(area, part) : area.request,
      );
      if (shown.moving) this.#pace.took(performance.now() - began);
      else this.#pace.rested();
      this.#arrived += 1;
      this.#count(shown, counts);
      const before = this.#taking;
      // Not awaited: the next request is under way while this frame is decoded.
      this.#taking = this.#take({ data, wanted, asked, part, turn: this.#arrived, before });
      if (isRough) this.#askAgain(wanted);
      else if (wanted.fineness === "fine") this.#refine(shown);
    } catch (error) {
      this.#giveUp(shown, error);
    }
  }

  /** Tell how often levels occur: in an older state that says nothing of this one. */
  #count(shown: Shown, counts: string | null): void {
    if (counts && shown === this.#awaited) useToning.getState().setCounts(readCounts(counts));
  }

  /** Ask for what is still awaited once more: there is more to it. */
  #askAgain(wanted: Wanted): void {
    if (wanted.shown === this.#awaited) this.#requests.push(wanted);
  }

  /** Ask for it exactly, unless it moves on: that would have to wait for it. */
  #refine(shown: Shown): void {
    clearTimeout(this.#resting);
    this.#resting = setTimeout(() => this.#askAgain({ shown, fineness: "exact" }), AT_REST);
  }

  /** A frame that did not come, or that is none, is not waited for any longer. */
  #giveUp(shown: Shown, error: unknown): void {
    this.#asked = null;
    this.#isMissing = true;
    this.#settle(shown);
    // What is not awaited any more brings its own next frame.
    if (shown === this.#awaited) this.#onTrouble(error);
  }

  async #take({ data, wanted, asked, part, turn, before }: Answer): Promise<void> {
    const { shown, fineness } = wanted;
    try {
      const [frame, hidden] = await decodeFrames(data);
      if (!frame) return;
      const { area, basis } = asked;
      const detail = (area.request.width / area.width) * shown.pixelRatio;
      const look = await lookOf(frame, hidden ?? null, detail, part ?? undefined);
      if (part) await before;
      this.#hold({ ...look, area, basis }, part, turn);
      if (fineness !== "fine") this.#settle(shown);
    } catch (error) {
      this.#giveUp(shown, error);
    }
  }

  /** Show what came, unless something newer is shown; a part only on what it belongs to. */
  #hold(came: Held, part: Part | null, turn: number): void {
    const held = this.#held;
    const fits = !part || held?.basis === came.basis;
    if (turn < this.#painted || this.#shown === null || !fits) {
      letGo(came);
      return;
    }
    this.#painted = turn;
    this.#isMissing = false;
    useShowing.setState({ trouble: null });
    if (part && held) {
      this.#held = { ...held, ...patched(held, came, part) };
      letGo(came);
    } else {
      letGo(held);
      this.#held = came;
    }
    this.#paint(part);
  }

  #settle(shown: Shown): void {
    if (shown === this.#awaited && !shown.moving) this.#surface.setAttribute("aria-busy", "false");
  }

  /** Paint all of it, or only where a part of the frame lies. */
  #paint(part: Part | null = null): void {
    const shown = this.#shown;
    const context = this.#surface.getContext("2d", { alpha: true });
    if (!shown || !context) return;
    this.#fit(shown);
    const held = this.#held && { ...this.#held, to: placeOf(this.#held.area, shown) };
    context.save();
    if (part && held) clipTo(context, placeOfPart(held.area, held.to, part));
    context.clearRect(0, 0, this.#surface.width, this.#surface.height);
    const area = frameArea(shown.view, shown.canvas, shown.stage, shown.pixelRatio, 1);
    if (area) this.#paintArea(context, shown, area, held);
    context.restore();
  }

  #paintArea(
    context: CanvasRenderingContext2D,
    shown: Shown,
    area: FrameArea,
    held: (Held & { readonly to: Place }) | null,
  ): void {
    clipTo(context, { ...area, x: area.left, y: area.top });
    // Filling what an opaque frame hides would cost as much as the frame itself.
    if (!held || held.frame.veil || !covers(held.to, area)) {
      context.fillStyle = this.#backing(context, shown);
      context.fillRect(area.left, area.top, area.width, area.height);
    }
    if (!held) return;
    // What moves must come soon; what rests is drawn pixel for pixel.
    context.imageSmoothingQuality = shown.moving ? "low" : "high";
    drawHeld(context, held, held.to);
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

/** Return what is asked for: the same basis as before where only a part of it is. */
function askedOf(shown: Shown, area: FrameArea, before: Asked["basis"] | undefined): Asked {
  const { trace } = shown;
  const [stroke, count] = [trace?.stroke ?? null, trace?.points.length ?? 0];
  return { basis: before ?? basisOf(shown), stroke, count, area };
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

/** Return how near to the export the first frame of a state is. */
function firstFineness({ moving, maskOf, view, pixelRatio }: Shown): Fineness {
  if (moving) return "quick";
  // A mask alone is made fast, and what is not made smaller is exact anyhow.
  return maskOf !== null || view.scale * pixelRatio >= 1 ? "exact" : "fine";
}

interface AskedFor {
  readonly data: ArrayBuffer;
  /** Whether there is more to see of it once it is asked for again. */
  readonly isRough: boolean;
  /** How often levels occur, where that was asked for. */
  readonly counts: string | null;
}

/** Ask for a view, and for what the open layer's mask hides there. */
async function ask({ shown, fineness }: Wanted, area: FrameArea["request"]): Promise<AskedFor> {
  const { projectId, revision, unsaved, moving, maskOf, maskSeen, hatched, printed } = shown;
  const masks = { mask_of: maskOf, mask_seen: maskSeen, hidden_of: hatched, printed };
  const view: FrameView = { ...area, fineness, ...masks };
  // What a tone finds stays as it is while the tone itself is moved, and is found once.
  const isFirst = !moving && fineness === firstFineness(shown);
  const tones_of = isFirst ? shown.tone : null;
  const response = await requestFrame(projectId, { revision, unsaved, view, tones_of });
  const counts = response.headers.get("Tone-Counts");
  const isRough = response.headers.has("Rough-As-Yet");
  return { data: await response.arrayBuffer(), isRough, counts };
}

function letGo(held: Look | null): void {
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

/** Where a part of a frame lies, and a pixel more: what is stretched reaches over. */
function placeOfPart(area: FrameArea, whole: Place, part: Part): Place {
  const across = whole.width / area.request.width;
  const down = whole.height / area.request.height;
  const x = Math.floor(whole.x + part.x * across) - 1;
  const y = Math.floor(whole.y + part.y * down) - 1;
  const width = Math.ceil(part.width * across) + 2;
  return { x, y, width, height: Math.ceil(part.height * down) + 2 };
}

function clipTo(context: CanvasRenderingContext2D, { x, y, width, height }: Place): void {
  context.beginPath();
  context.rect(x, y, width, height);
  context.clip();
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
