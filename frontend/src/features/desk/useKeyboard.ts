/** What the desk does at keys. */

import { useEffect } from "react";
import { comesFirst, isChord, isMeant } from "@/features/desk/meantKeys";
import { manyChosen } from "@/features/hand/choosing";
import { drawByKey } from "@/features/hand/drawing";
import { resizeHeld, swapHeld } from "@/features/hand/roughing";
import { isOnStage } from "@/features/hand/usePointer";
import { wayOf } from "@/model/arrows";
import type { Layer } from "@/model/composite";
import { type DeedId, deedOf } from "@/model/keys";
import { MENDING } from "@/model/mends";
import { useDesk } from "@/state/desk/desk";
import type { Facet } from "@/state/desk/selection";
import { useJudging } from "@/state/judging";
import { useOwnKeys } from "@/state/ownKeys";
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
import { layWords } from "@/work/lettering";
import { zoomFit, zoomLifeSize, zoomStep } from "@/work/zooming";

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
      useJudging.getState().seePrinted(false);
    };
    const onKeyUp = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase();
      // The same letter may be typed elsewhere while it is looked through otherwise.
      if (key === lookedBy) letGo();
      if (key === swap.by) swap.up();
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
    withControl(event, desk) ||
    forView(event, desk) ||
    forChosen(event, desk) ||
    forLayer(event, desk)
  );
}

/** What keys do to several chosen layers, whichever is open. */
function forChosen(event: KeyboardEvent, desk: DeskActions): boolean {
  const composite = expectedComposite();
  if (!composite || manyChosen(composite).length === 0 || isChord(event)) return false;
  const arrow = wayOf(event.key);
  if (arrow && isOnStage(event.target)) {
    const step = event.shiftKey ? COARSE_STEP : FINE_STEP;
    nudgeChosen(desk, arrow[0] * step, arrow[1] * step);
    return true;
  }
  const deed = deedOf(event, useOwnKeys.getState().own);
  if (deed?.id !== "remove" || !isOnLayers(event.target)) return false;
  removeChosen(desk);
  return true;
}

function withControl(event: KeyboardEvent, desk: DeskActions): boolean {
  if (!isChord(event) || event.altKey || event.key.toLowerCase() !== "z") return false;
  if (event.shiftKey) desk.redo();
  else desk.undo();
  return true;
}

function forView(event: KeyboardEvent, desk: DeskActions): boolean {
  const command = isChord(event) ? undefined : viewCommand(event);
  command?.(desk, event.key.toLowerCase());
  return command !== undefined;
}

function forLayer(event: KeyboardEvent, desk: DeskActions): boolean {
  const layer = openLayer();
  if (!layer || isChord(event)) return false;
  if (drawByKey(event.key, desk)) return true;
  const arrow = wayOf(event.key);
  if (arrow) return nudgeOnStage(event, desk, layer, arrow);
  const command = layerCommand(event);
  command?.(desk, layer, event.key.toLowerCase());
  return command !== undefined;
}

/** Return what a key does to a layer, here and now. */
function layerCommand(event: KeyboardEvent): LayerCommand | undefined {
  if (event.key === "Escape") return () => useDesk.getState().actions.open(null);
  const deed = deedOf(event, useOwnKeys.getState().own);
  if (!deed || (event.repeat && !deed.isRepeated)) return undefined;
  if (deed.id === "remove" && !isOnLayers(event.target)) return undefined;
  return LAYER_COMMANDS[deed.id];
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

/** Tell whether a key is meant for layers as a whole: on a slider or a line it is not. */
function isOnLayers(target: EventTarget | null): boolean {
  if (isOnStage(target)) return true;
  return target instanceof Element && target.closest("[data-row]") !== null;
}

/** What is done whichever layer is open. */
const VIEW_COMMANDS: Partial<Record<DeedId, (desk: DeskActions, key: string) => void>> = {
  printed: (_desk, key) => {
    lookedBy = key;
    useJudging.getState().seePrinted(true);
  },
  closer: () => zoomStep(1),
  further: () => zoomStep(-1),
  whole: zoomFit,
  lifeSize: zoomLifeSize,
  words: (desk) => layWords(desk),
  shelf: () => useDesk.getState().actions.setShelf(!useDesk.getState().shelfOpen),
};

function viewCommand(event: KeyboardEvent): ((desk: DeskActions, key: string) => void) | undefined {
  const { chosen, actions } = useDesk.getState();
  if (event.key === "Escape" && chosen.length > 0) return () => actions.choose([]);
  const deed = deedOf(event, useOwnKeys.getState().own);
  return deed && VIEW_COMMANDS[deed.id];
}

/** Held for a while, the key swaps the brush for as long; pressed, for good. */
const swap = {
  since: 0,
  by: "",
  down: (by: string) => {
    swap.since = performance.now();
    swap.by = by;
    swapHeld();
  },
  up: () => {
    if (swap.since > 0 && performance.now() - swap.since > HELD_MS) swapHeld();
    swap.since = 0;
  },
};

/** The key that is held to look at something otherwise. */
let lookedBy: string | null = null;

function lookBy(look: () => void): LayerCommand {
  return (_desk, _layer, key) => {
    lookedBy = key;
    look();
  };
}

/** Do something with the open layer; the key is the one that was pressed, in lower case. */
type LayerCommand = (desk: DeskActions, layer: Layer, key: string) => void;

const openFacet =
  (facet: Facet): LayerCommand =>
  (_, layer) =>
    useDesk.getState().actions.open(layer.id, facet);

const LAYER_COMMANDS: Partial<Record<DeedId, LayerCommand>> = {
  place: openFacet("place"),
  wash: openFacet("wash"),
  cut: openFacet("cut"),
  fade: openFacet("fade"),
  blend: openFacet("blend"),
  tone: openFacet("tone"),
  shadow: openFacet("shadow"),
  mend: (_, layer) => {
    useDesk.getState().actions.open(layer.id, "cut");
    useDesk.getState().actions.openLine(MENDING);
  },
  copy: duplicate,
  lock: toggleLocked,
  hide: toggleShown,
  uncut: lookBy(() => useDesk.getState().actions.setUncut(true)),
  swap: (_desk, _layer, key) => swap.down(key),
  narrower: () => resizeHeld(-1),
  wider: () => resizeHeld(1),
  backdrop: takeBackdropAway,
  doubt: () => walkDoubts(1),
  doubtBefore: () => walkDoubts(-1),
  through: lookBy(() => useDesk.getState().actions.setSeeThrough(true)),
  without: lookBy(() => useJudging.getState().holdOut(true)),
  together: putTogether,
  apart: takeApart,
  choose: chooseOpen,
  remove,
  forward: (desk, layer) => shiftInPile(desk, layer, 1),
  back: (desk, layer) => shiftInPile(desk, layer, -1),
};
