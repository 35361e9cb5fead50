/** Painting on the stage: from the press of the pointer to the stroke that is sent. */

import type { PointerEvent } from "react";
import { stagePoint } from "@/features/hand/useHold";
import { type Composite, isLocked, isPlaced, type Layer } from "@/model/composite";
import { type Lying, maskLying } from "@/model/lying";
import { EMPTY_MASK } from "@/model/masks";
import { onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { brushPart, canPaintAt, isFarEnough, isFull, reachOf, strokeEdit } from "@/model/strokes";
import { stageToCanvas } from "@/model/viewing";
import { useBrush } from "@/state/brush";
import { facetFor, useDesk } from "@/state/desk";
import { useMessages } from "@/state/messages";
import { openLayer } from "@/work/commands";
import type { DeskActions } from "@/work/DeskContext";
import { viewInForce } from "@/work/zooming";

interface Touched {
  readonly at: Point;
  readonly pressure: number;
}

export interface StrokeDrag {
  readonly kind: "stroke";
  readonly layer: Layer;
  readonly part: string;
  readonly lying: Lying;
  /** Another one for each piece that is sent. */
  piece: object;
  points: Touched[];
}

/** What is shown is averaged: so far beyond its reach a stroke may still be seen. */
const SPARE = 1;

/** Where the last stroke ended: with Shift the next one begins there. */
let lastEnd: { readonly layer: string; readonly at: Point } | null = null;

/** Return the part that the brush paints in now, if the brush is in the hand. */
export function paintedNow(): string | null {
  const { facet, line } = useDesk.getState();
  const layer = openLayer();
  return layer && facetFor(layer, facet) === "cut" ? brushPart(layer, line) : null;
}

/** Begin a stroke, unless the layer has nothing there. */
export function beginStroke(composite: Composite, event: PointerEvent<Element>): StrokeDrag | null {
  const layer = openLayer();
  const part = paintedNow();
  const view = viewInForce();
  if (!layer || !part || !view || isLocked(composite, layer.id)) return null;
  const touched = touch(event);
  if (!touched) return null;
  const shown = isPlaced(layer) ? onCanvas(composite, layer) : layer;
  if (!canPaintAt(shown, touched.at)) {
    useMessages.getState().say(`${layer.name} has nothing there to hide or show.`);
    return null;
  }
  const lying = maskLying(composite, layer, layer.mask ?? EMPTY_MASK);
  const joins = event.shiftKey && lastEnd?.layer === layer.id;
  const before = joins && lastEnd ? [{ at: lastEnd.at, pressure: touched.pressure }] : [];
  const points = [...before, touched];
  const drag: StrokeDrag = { kind: "stroke", layer, part, lying, piece: {}, points };
  show(drag);
  return drag;
}

/** Take the stroke on to where the pointer went since. */
export function goOn(drag: StrokeDrag, event: PointerEvent<Element>, desk: DeskActions): void {
  const moves = event.nativeEvent.getCoalescedEvents?.() ?? [];
  const box = event.currentTarget.getBoundingClientRect();
  const view = viewInForce();
  if (!view) return;
  for (const { clientX, clientY, pressure, pointerType } of moves.length ? moves : [event]) {
    const at = stageToCanvas(view, { x: clientX - box.left, y: clientY - box.top });
    if (!isFarEnough(drag.points.at(-1)?.at, at, useBrush.getState().size)) continue;
    drag.points.push({ at, pressure: pressureOf(pointerType, pressure) });
    const edit = editOf(drag);
    if (edit.stroke && isFull(edit.stroke)) {
      desk.edit(edit);
      drag.points = drag.points.slice(-1);
      drag.piece = {};
    }
  }
  show(drag);
}

/** End the stroke, and send it. */
export function endStroke(drag: StrokeDrag, desk: DeskActions): void {
  desk.edit(editOf(drag));
  const end = drag.points.at(-1);
  lastEnd = end ? { layer: drag.layer.id, at: end.at } : null;
  useDesk.getState().actions.setLive(null);
  useDesk.getState().actions.openLine(drag.part);
}

function show(drag: StrokeDrag): void {
  const { setTrace } = useDesk.getState().actions;
  const points = drag.points.map(({ at }) => at);
  const edit = editOf(drag);
  const reach = edit.stroke ? reachOf(drag.lying, edit.stroke) + SPARE : 0;
  setTrace({ stroke: drag.piece, points, reach, edit });
}

function editOf({ layer, part, lying, points }: StrokeDrag) {
  return strokeEdit(layer, part, lying, points, useBrush.getState());
}

function touch(event: PointerEvent<Element>): Touched | null {
  const view = viewInForce();
  if (!view) return null;
  const at = stageToCanvas(view, stagePoint(event));
  return { at, pressure: pressureOf(event.pointerType, event.pressure) };
}

/** Only pens press harder and softer. */
function pressureOf(pointer: string, pressure: number): number {
  return pointer === "pen" ? Math.max(pressure, 0.05) : 1;
}
