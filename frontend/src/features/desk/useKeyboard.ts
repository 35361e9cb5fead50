/** The desk's keyboard map. */

import { useEffect } from "react";
import { comesFirst, isChord, isMeant } from "@/features/desk/meantKeys";
import { manyChosen } from "@/features/hand/choosing";
import { drawByKey } from "@/features/hand/drawing";
import { resizeHeld, swapHeld } from "@/features/hand/roughing";
import { isOnStage } from "@/features/hand/usePointer";
import type { Layer } from "@/model/composite";
import { MENDING } from "@/model/mends";
import { useDesk } from "@/state/desk/desk";
import { useJudging } from "@/state/judging";
import { expectedComposite } from "@/state/project";
import {
  chooseOpen,
  duplicate,
  nudge,
  nudgeChosen,
  openLayer,
  putTogether,
  remove,
  removeChosen,
  shiftInPile,
  takeApart,
  toggleLocked,
  toggleShown,
} from "@/work/commands";
import { takeBackdropAway } from "@/work/cutting/cutOut";
import { walkDoubts } from "@/work/cutting/walking";
import type { DeskActions } from "@/work/DeskContext";
import { zoomFit, zoomLifeSize, zoomStep } from "@/work/zooming";

export interface Shortcut {
  readonly keys: string;
  readonly does: string;
}

/** What the map on `?` shows, in the order of the work. */
export const SHORTCUTS: readonly Shortcut[] = [
  { keys: "P", does: "Place: move, scale, turn the open layer" },
  { keys: "W", does: "Wash: the colours of the open colour or gradient" },
  { keys: "C", does: "Cut: what of the open layer shows" },
  { keys: "F", does: "Fade: where the open layer fades out" },
  { keys: "E, held", does: "See everything of the open layer, cut or not" },
  { keys: "A", does: "Take the backdrop of the open photo away, found by itself" },
  { keys: "D, Shift + D", does: "Go to the next, the previous doubtful place of the edge" },
  { keys: "R", does: "Mend specks and scratches of the open photo" },
  { keys: "N", does: "Let the brush do the other of the two, and back; held, for as long" },
  { keys: ", and .", does: "A narrower, a wider brush; the wheel with Alt does it too" },
  { keys: "Enter", does: "Close the outline that is being drawn; Backspace takes a corner back" },
  { keys: "Shift + click", does: "Paint straight on from the last stroke" },
  { keys: "B", does: "Blend: how the open layer joins those beneath" },
  { keys: "T", does: "Tone: how light and of what colour the open layer is" },
  { keys: "H", does: "Shadow: what the open layer's shape throws, and its outline" },
  { keys: "Arrow keys", does: "Move the open layer by one pixel; with Shift by ten" },
  { keys: "M", does: "Choose the open layer with others, or let it go" },
  { keys: "Shift + click, Shift + drag", does: "Choose one more layer; draw a ring round several" },
  { keys: "Alt, held", does: "While moving: rest on no edges and middles of others" },
  { keys: "Ctrl + drag", does: "Move a copy of the layer" },
  { keys: "Page up, Page down", does: "Bring the open layer forward, send it back" },
  { keys: "J", does: "Lay a copy over the open layer" },
  { keys: "K", does: "Lock or unlock the open layer" },
  { keys: "O", does: "Hide or show the open layer" },
  { keys: "U", does: "Put the open layer together with the one beneath; with Shift, apart" },
  { keys: "Delete", does: "Take the open layer away" },
  { keys: "G, held", does: "See through the open layer while held" },
  { keys: "V, held", does: "Leave the open layer out while held, to see what lies behind" },
  { keys: "Space, held", does: "Drag the view instead of the layer" },
  { keys: "Ctrl + Z", does: "Undo" },
  { keys: "Ctrl + Shift + Z", does: "Do it again" },
  { keys: "+ and −", does: "Zoom in and out; the wheel zooms towards the pointer" },
  { keys: "0", does: "Show the whole picture" },
  { keys: "1", does: "Show it pixel for pixel" },
  { keys: "S", does: "Open or close the shelf" },
  { keys: "Menu key", does: "Fan out all layers there, as press and hold does" },
  { keys: "Alt + click", does: "Take the front layer, even one that is looked through" },
  { keys: "Escape", does: "Close the open layer" },
  { keys: "?", does: "This map" },
];

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const HELD_MS = 350;
const FINE_STEP = 1;
const COARSE_STEP = 10;

/** Hear the keyboard while the desk is open. */
export function useKeyboard(desk: DeskActions, showMap: () => void): void {
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.defaultPrevented || !isMeant(event)) return;
      if (event.key === "?") showMap();
      if (obey(event, desk)) event.preventDefault();
    };
    const onKeyDownFirst = (event: KeyboardEvent) => {
      if (!comesFirst(event) || !isMeant(event)) return;
      // A key that is kept down begins no name either.
      if (!obey(event, desk) && !event.repeat) return;
      event.preventDefault();
      event.stopPropagation();
    };
    const letGo = () => {
      lookedBy = null;
      useDesk.getState().actions.setSeeThrough(false);
      useDesk.getState().actions.setUncut(false);
      useJudging.getState().holdOut(false);
    };
    const onKeyUp = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase();
      // The same letter may be typed elsewhere while it is looked through otherwise.
      if (key === lookedBy) letGo();
      if (key === "n") swap.up();
    };
    window.addEventListener("keydown", onKeyDown);
    window.addEventListener("keydown", onKeyDownFirst, { capture: true });
    window.addEventListener("keyup", onKeyUp);
    // A key that is let go of elsewhere is not heard of here.
    window.addEventListener("blur", letGo);
    return () => {
      window.removeEventListener("keydown", onKeyDown);
      window.removeEventListener("keydown", onKeyDownFirst, { capture: true });
      window.removeEventListener("keyup", onKeyUp);
      window.removeEventListener("blur", letGo);
    };
  }, [desk, showMap]);
}

function obey(event: KeyboardEvent, desk: DeskActions): boolean {
  return (
    withControl(event, desk) || forView(event) || forChosen(event, desk) || forLayer(event, desk)
  );
}

/** What keys do to several chosen layers, whichever is open. */
function forChosen(event: KeyboardEvent, desk: DeskActions): boolean {
  const composite = expectedComposite();
  if (!composite || manyChosen(composite).length === 0 || isChord(event)) return false;
  const arrow = ARROWS[event.key];
  if (arrow && isOnStage(event.target)) {
    const step = event.shiftKey ? COARSE_STEP : FINE_STEP;
    nudgeChosen(desk, arrow[0] * step, arrow[1] * step);
    return true;
  }
  if (!REMOVING.has(event.key) || !isOnLayers(event.target)) return false;
  removeChosen(desk);
  return true;
}

function withControl(event: KeyboardEvent, desk: DeskActions): boolean {
  if (!isChord(event) || event.altKey || event.key.toLowerCase() !== "z") return false;
  if (event.shiftKey) desk.redo();
  else desk.undo();
  return true;
}

function forView(event: KeyboardEvent): boolean {
  const command = isChord(event) ? undefined : viewCommand(event);
  command?.();
  return command !== undefined;
}

function forLayer(event: KeyboardEvent, desk: DeskActions): boolean {
  const layer = openLayer();
  if (!layer || isChord(event)) return false;
  if (drawByKey(event.key, desk)) return true;
  const arrow = ARROWS[event.key];
  if (arrow) return nudgeOnStage(event, desk, layer, arrow);
  const command = layerCommand(event);
  if (REMOVING.has(event.key) && !isOnLayers(event.target)) return false;
  if (!command || (event.repeat && !REPEATING.has(event.key))) return false;
  command(desk, layer);
  return true;
}

/** Return what a key does to a layer: Shift counts, Caps Lock does not. */
function layerCommand({ key, shiftKey }: KeyboardEvent): LayerCommand | undefined {
  const name = key.length === 1 ? key.toLowerCase() : key;
  return (shiftKey ? LAYER_KEYS[`Shift ${name}`] : undefined) ?? LAYER_KEYS[name];
}

function nudgeOnStage(
  event: KeyboardEvent,
  desk: DeskActions,
  layer: Layer,
  [x, y]: readonly [number, number],
): boolean {
  if (!isOnStage(event.target)) return false;
  const step = event.shiftKey ? COARSE_STEP : FINE_STEP;
  nudge(desk, layer, x * step, y * step);
  return true;
}

const REMOVING: ReadonlySet<string> = new Set(["Delete", "Backspace"]);

/** Tell whether a key is meant for layers as a whole: on a slider or a line it is not. */
function isOnLayers(target: EventTarget | null): boolean {
  if (isOnStage(target)) return true;
  return target instanceof Element && target.closest("[data-row]") !== null;
}

const REPEATING: ReadonlySet<string> = new Set(["PageUp", "PageDown", ",", "."]);

const VIEW_KEYS: Readonly<Record<string, () => void>> = {
  "+": () => zoomStep(1),
  "=": () => zoomStep(1),
  "-": () => zoomStep(-1),
  "0": zoomFit,
  "1": zoomLifeSize,
  s: () => useDesk.getState().actions.setShelf(!useDesk.getState().shelfOpen),
};

function viewCommand({ key }: KeyboardEvent): (() => void) | undefined {
  const { chosen, actions } = useDesk.getState();
  if (key === "Escape" && chosen.length > 0) return () => actions.choose([]);
  return VIEW_KEYS[key.toLowerCase()];
}

/** Held for a while, the key swaps the brush for as long; pressed, for good. */
const swap = {
  since: 0,
  down: () => {
    swap.since = performance.now();
    swapHeld();
  },
  up: () => {
    if (swap.since > 0 && performance.now() - swap.since > HELD_MS) swapHeld();
    swap.since = 0;
  },
};

/** The key that is held to look at something otherwise. */
let lookedBy: string | null = null;

function lookBy(key: string, look: () => void): () => void {
  return () => {
    lookedBy = key;
    look();
  };
}

type LayerCommand = (desk: DeskActions, layer: Layer) => void;

const LAYER_KEYS: Readonly<Record<string, LayerCommand>> = {
  p: (_, layer) => useDesk.getState().actions.open(layer.id, "place"),
  w: (_, layer) => useDesk.getState().actions.open(layer.id, "wash"),
  c: (_, layer) => useDesk.getState().actions.open(layer.id, "cut"),
  f: (_, layer) => useDesk.getState().actions.open(layer.id, "fade"),
  b: (_, layer) => useDesk.getState().actions.open(layer.id, "blend"),
  r: (_, layer) => {
    useDesk.getState().actions.open(layer.id, "cut");
    useDesk.getState().actions.openLine(MENDING);
  },
  h: (_, layer) => useDesk.getState().actions.open(layer.id, "shadow"),
  t: (_, layer) => useDesk.getState().actions.open(layer.id, "tone"),
  j: duplicate,
  k: toggleLocked,
  o: toggleShown,
  e: lookBy("e", () => useDesk.getState().actions.setUncut(true)),
  n: swap.down,
  ",": () => resizeHeld(-1),
  ".": () => resizeHeld(1),
  a: takeBackdropAway,
  d: () => walkDoubts(1),
  "Shift d": () => walkDoubts(-1),
  g: lookBy("g", () => useDesk.getState().actions.setSeeThrough(true)),
  v: lookBy("v", () => useJudging.getState().holdOut(true)),
  u: putTogether,
  "Shift u": takeApart,
  m: chooseOpen,
  Delete: remove,
  Backspace: remove,
  PageUp: (desk, layer) => shiftInPile(desk, layer, 1),
  PageDown: (desk, layer) => shiftInPile(desk, layer, -1),
  Escape: () => useDesk.getState().actions.open(null),
};
