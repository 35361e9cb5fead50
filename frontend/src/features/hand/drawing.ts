/** Drawing parts of a mask on the stage: shapes, outlines, areas of even colour. */

import { EVEN_PART } from "@generated/limits";
import type { Drag, Press, Touch } from "@/features/hand/drag";
import { type Composite, isLocked, type Layer, sheetOf } from "@/model/composite";
import {
  type Drawn,
  drawnKind,
  type EvenPart,
  hasColours,
  isOwnColour,
  NEAR,
  newEven,
  newOutline,
  shapeBetween,
  simplified,
  spotAt,
} from "@/model/drawing";
import { liesOn } from "@/model/geometry";
import { type Lying, maskLying } from "@/model/lying";
import { changePart, EMPTY_MASK, newShape, openPart } from "@/model/masks";
import { onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";
import { facetFor } from "@/state/desk/selection";
import { useDrawing } from "@/state/drawing";
import { useMessages } from "@/state/messages";
import { expectedComposite } from "@/state/project";
import { openLayer } from "@/work/commands";
import type { DeskActions } from "@/work/DeskContext";

const SLACK = 4;
const FREE_STEP = 3;
/** How much of the tolerance a pixel of the screen is worth. */
const TOLERANCE_STEP = 0.15;

/** Return what the next press on the stage draws, or adds spots to. */
export function drawnNow(): Drawn | null {
  const { facet, line } = useDesk.getState();
  const layer = openLayer();
  if (!layer || facetFor(layer, facet) !== "cut") return null;
  return drawnKind(line) ?? (openEven(layer) ? "even" : null);
}

interface Begun {
  readonly composite: Composite;
  readonly layer: Layer;
  readonly lying: Lying;
  readonly touch: Touch;
  readonly desk: DeskActions;
}

/** Begin to draw what is to be drawn. */
export function drawing({ composite, open, grip, touch, desk }: Press): Drag | null | undefined {
  const kind = drawnNow();
  if (!open || !kind || grip !== null || touch.altKey) return undefined;
  if (isLocked(composite, open.id)) return null;
  const lying = maskLying(composite, open, open.mask ?? EMPTY_MASK);
  const begun = { composite, layer: open, lying, touch, desk };
  if (kind === "outline") return outlineDrag(begun);
  return kind === "even" ? evenDrag(begun) : shapeDrag(begun, kind);
}

function shapeDrag(begun: Begun, kind: "ellipse" | "rectangle"): Drag {
  const { composite, layer, lying, desk } = begun;
  const { at } = begun.touch;
  const { setLive, openLine } = useDesk.getState().actions;
  const fresh = newShape(layer, sheetOf(composite, layer.id), kind);
  const from = lying.fromCanvas(at);
  // A press that does not move puts the usual shape there.
  let part = { ...fresh, x: Math.round(from.x), y: Math.round(from.y) };
  const editOf = () => ({ kind: "add_part", layer_id: layer.id, part }) as const;
  return {
    move: (touch) => {
      const { at: to, view } = touch;
      if (Math.hypot(to.x - at.x, to.y - at.y) * view.scale < SLACK) return;
      part = shapeBetween(fresh, from, lying.fromCanvas(to), touch);
      setLive(editOf());
    },
    end: () => {
      desk.edit(editOf());
      openLine(part.id);
    },
    cancel: () => setLive(null),
  };
}

function evenDrag({ composite, layer, lying, touch: { at }, desk }: Begun): Drag | null {
  if (!hasColours(layer) || !liesOn(onCanvas(composite, layer), at)) {
    useMessages.getState().say(`${layer.name} has no colour there.`);
    return null;
  }
  const before = openEven(layer);
  if (before && before.spots.length >= EVEN_PART.spots.maxItems) {
    useMessages.getState().say("That many spots are enough for one colour; add another one.");
    return null;
  }
  const spot = spotAt(composite, layer, at);
  const fresh = before
    ? { ...before, spots: [...before.spots, spot] }
    : newEven(composite, layer, lying, at);
  let part: EvenPart = fresh;
  const editOf = () =>
    before ? changePart(layer, part) : ({ kind: "add_part", layer_id: layer.id, part } as const);
  const { setLive, openLine } = useDesk.getState().actions;
  setLive(editOf());
  return {
    move: ({ at: to, view }) => {
      const way = (to.x - at.x) * view.scale;
      const wanted = fresh.tolerance + (Math.abs(way) < SLACK ? 0 : way * TOLERANCE_STEP);
      const tolerance = Math.round(Math.min(Math.max(wanted, 0), EVEN_PART.tolerance.maximum));
      part = { ...fresh, tolerance };
      setLive(editOf());
    },
    end: () => {
      desk.edit(editOf());
      openLine(part.id);
    },
    cancel: () => setLive(null),
  };
}

/** Return the open even colour, if it is found in the layer's own photo. */
function openEven(layer: Layer): EvenPart | null {
  const { line } = useDesk.getState();
  const part = openPart(layer, line);
  if (part?.kind !== "even" || (line !== null && line !== part.id)) return null;
  return isOwnColour(layer, part) ? part : null;
}

/** Add a corner, or, where the pointer goes on, a free line; on the first one, close it. */
function outlineDrag({ touch: { at, view }, desk }: Begun): Drag | null {
  const { corners, setCorners } = useDrawing.getState();
  const [first] = corners;
  if (first && corners.length > 2 && onScreen(view, first, at) < NEAR) {
    closeOutline(desk);
    return null;
  }
  const free = [at];
  setCorners([...corners, at]);
  let scale = view.scale;
  return {
    move: ({ at: to, view: now }) => {
      scale = now.scale;
      const last = free.at(-1) ?? at;
      if (onScreen(now, last, to) < FREE_STEP) return;
      free.push(to);
      setCorners([...corners, ...free]);
    },
    end: () => setCorners([...corners, ...simplified(free, 1 / scale)]),
    cancel: () => setCorners(corners),
  };
}

function onScreen(view: StageView, one: Point, other: Point): number {
  const [from, to] = [canvasToStage(view, one), canvasToStage(view, other)];
  return Math.hypot(from.x - to.x, from.y - to.y);
}

/** Make a part of the corners so far. */
export function closeOutline(desk: DeskActions): void {
  const { corners, setCorners } = useDrawing.getState();
  const composite = expectedComposite();
  const layer = openLayer();
  setCorners([]);
  if (!composite || !layer || corners.length < 3) return;
  const lying = maskLying(composite, layer, layer.mask ?? EMPTY_MASK);
  const part = newOutline(layer, corners.map(lying.fromCanvas));
  desk.edit({ kind: "add_part", layer_id: layer.id, part });
  useDesk.getState().actions.openLine(part.id);
}

/** Do what a key means while something is to be drawn; false where it means nothing. */
export function drawByKey(key: string, desk: DeskActions): boolean {
  const { corners, setCorners } = useDrawing.getState();
  const isDrawing = drawnKind(useDesk.getState().line) !== null;
  if (!isDrawing) return false;
  if (key === "Enter" && corners.length > 2) closeOutline(desk);
  else if (key === "Backspace" && corners.length > 0) setCorners(corners.slice(0, -1));
  else if (key === "Escape" && corners.length > 0) setCorners([]);
  else if (key === "Escape") useDesk.getState().actions.openLine(null);
  else return false;
  return true;
}
