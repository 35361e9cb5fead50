/** The hand on the stage: moving, scaling and turning layers, and dragging the view. */

import { type MouseEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { v4 as newId } from "uuid";
import { blankDrag } from "@/features/hand/blank";
import {
  beginRing,
  carryRing,
  chosenDrag,
  endRing,
  manyChosen,
  othersOf,
  type RingDrag,
  shiftedBounds,
  snapFor,
} from "@/features/hand/choosing";
import { beginDrawing, type DrawDrag, drawnNow } from "@/features/hand/drawing";
import { beginMend, mendingNow } from "@/features/hand/mending";
import { dragOwn, type OwnDrag, type OwnGrip, ownDrag } from "@/features/hand/ownDrags";
import {
  beginStroke,
  endStroke,
  goOn,
  paintedNow,
  type StrokeDrag,
} from "@/features/hand/painting";
import { pressMatch } from "@/features/hand/pinning";
import { beginRough, resizeHeld, roughNow } from "@/features/hand/roughing";
import { insideDrag, type ShapingGrip, shapingDrag } from "@/features/hand/shapingDrags";
import { sheetDrag } from "@/features/hand/sheetDrags";
import { spotDrag, spotNow } from "@/features/hand/spots";
import { SLACK, stagePoint, useHold } from "@/features/hand/useHold";
import {
  type Composite,
  type Gradient,
  type GradientLayer,
  groupsAround,
  isLocked,
  isPlaced,
  type Layer,
  type PhotoLayer,
  type PlacedLayer,
  type Placement,
} from "@/model/composite";
import {
  layersAt,
  liesOn,
  movedBy,
  scaledByCorner,
  toSource,
  turnedTowards,
} from "@/model/geometry";
import { draggedGradient, type GradientGrip } from "@/model/gradients";
import { gradientIntoPile, gradientOnCanvas, intoPile, onCanvas } from "@/model/nesting";
import type { Point, Size } from "@/model/points";
import { takenByClick } from "@/model/reaching";
import { boundsOf } from "@/model/snapping";
import { pannedBy, stageToCanvas } from "@/model/viewing";
import { facetFor, useDesk } from "@/state/desk";
import { useHelping } from "@/state/helping";
import { expectedComposite } from "@/state/project";
import { blankNow, breakOffBlank } from "@/work/blank";
import { openLayer } from "@/work/commands";
import { type DeskActions, useDeskActions } from "@/work/DeskContext";
import { viewInForce, zoomTowards } from "@/work/zooming";

type Corner = 0 | 1 | 2 | 3;
type Grip = Corner | "turn" | GradientGrip | OwnGrip | ShapingGrip;

interface LayerDrag {
  readonly kind: "layer";
  /** As it lies on the canvas, whatever groups it is in. */
  readonly layer: PlacedLayer;
  readonly grip: Corner | "turn" | null;
  readonly start: Point;
  /** What a press that does not move takes. */
  readonly under: string | null;
  /** In Cut and Fade the hand works on the layer, and does not move it. */
  readonly isStill: boolean;
  moved: boolean;
  /** What it may come to rest on. */
  others?: ReturnType<typeof othersOf>;
}

interface GradientDrag {
  readonly kind: "gradient";
  readonly layer: GradientLayer;
  readonly gradient: Gradient;
  readonly grip: GradientGrip;
}

type Drag =
  | { readonly kind: "pan"; last: Point }
  | LayerDrag
  | GradientDrag
  | OwnDrag
  | StrokeDrag
  | RingDrag
  | DrawDrag;

const WHEEL_ZOOM = 0.0016;
const TURN_STEP = 15;
const MIDDLE_BUTTON = 1;
const SECOND_BUTTON = 2;

export interface StageHandlers {
  readonly spaceHeld: boolean;
  onPointerDown(event: PointerEvent<Element>): void;
  onPointerMove(event: PointerEvent<Element>): void;
  onPointerUp(event: PointerEvent<Element>): void;
  onPointerCancel(): void;
  onContextMenu(event: MouseEvent<Element>): void;
}

/**
 * Return the handlers of the stage's element; `onHold` hears of a press that stays where
 * it is, and of the menu key.
 */
export function useStagePointer(onHold: (at: Point) => void): StageHandlers {
  const desk = useDeskActions();
  const drag = useRef<Drag | null>(null);
  const hold = useHold((at) => {
    drag.current = null;
    useDesk.getState().actions.setLive(null);
    onHold(at);
  });
  const spaceHeld = useSpaceHeld();
  return {
    spaceHeld,
    onPointerDown: (event) => {
      drag.current = begun(event, spaceHeld, desk);
      const onLayers = drag.current?.kind !== "pan" && gripOf(event.target) === null;
      const atWork = brushNow() || drawnNow() || blankNow() || spotNow();
      if (event.button === 0 && onLayers && !atWork) hold.begin(event);
    },
    onContextMenu: (event) => {
      event.preventDefault();
      onHold(menuPoint(event));
    },
    onPointerMove: (event) => {
      hold.move(event);
      if (drag.current) carryOn(drag.current, event, desk);
    },
    onPointerUp: () => {
      hold.end();
      if (drag.current) endDrag(drag.current, desk);
      drag.current = null;
    },
    onPointerCancel: () => {
      hold.end();
      drag.current = null;
      useDesk.getState().actions.setLive(null);
      useHelping.getState().clear();
      breakOffBlank();
    },
  };
}

/** Zoom towards the pointer; a listener of its own, since React's cannot be active. */
export function useWheelZoom(element: Element | null): void {
  useEffect(() => {
    if (!element) return;
    const onWheel = (event: Event) => {
      if (!(event instanceof WheelEvent)) return;
      event.preventDefault();
      if (event.altKey && brushNow()) {
        resizeHeld(-Math.sign(event.deltaY));
        return;
      }
      const box = element.getBoundingClientRect();
      zoomTowards(
        { x: event.clientX - box.left, y: event.clientY - box.top },
        Math.exp(-event.deltaY * WHEEL_ZOOM),
      );
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [element]);
}

function carryOn(drag: Drag, event: PointerEvent<Element>, desk: DeskActions): void {
  if (drag.kind === "pan") pan(drag, stagePoint(event));
  else if (drag.kind === "layer") dragLayer(drag, event);
  else if (drag.kind === "gradient") dragGradient(drag, event);
  else if (drag.kind === "own") dragOwn(drag, event);
  else if (drag.kind === "ring") carryRing(drag, event);
  else if (drag.kind === "stroke") goOn(drag, event, desk);
  else drag.move(event);
}

function endDrag(drag: Drag, desk: DeskActions): void {
  useHelping.getState().setSnap(null);
  useHelping.getState().setSpot(null);
  if (drag.kind === "stroke") endStroke(drag, desk);
  else if (drag.kind === "ring") finishRing(drag);
  else if (drag.kind === "draw") drag.end(desk);
  else if (drag.kind !== "pan") letGo(drag, desk);
}

function finishRing(drag: RingDrag): void {
  const composite = expectedComposite();
  if (composite) endRing(drag, composite);
}

/** Begin what a press means: dragging the view, a grip or a layer. */
function begun(event: PointerEvent<Element>, spaceHeld: boolean, desk: DeskActions): Drag | null {
  const pans = spaceHeld || event.button === MIDDLE_BUTTON;
  if (!pans && event.button !== 0) return null;
  event.currentTarget.setPointerCapture(event.pointerId);
  if (event.button === MIDDLE_BUTTON) event.preventDefault();
  return pans ? { kind: "pan", last: stagePoint(event) } : taken(event, desk);
}

/** Decide what a press takes: a grip, the open layer if it lies there, or the front one. */
function taken(event: PointerEvent<Element>, desk: DeskActions): Drag | null {
  const view = viewInForce();
  const composite = expectedComposite();
  if (!view || !composite) return null;
  const start = stageToCanvas(view, stagePoint(event));
  const open = openLayer();
  const grip = gripOf(event.target);
  if (grip === null && pressMatch(composite, start)) return null;
  const before = asked(start, event, desk) ?? forMany(composite, open, grip, start, event);
  if (before) return before;
  const working = event.altKey ? null : atWork(composite, event, grip, desk);
  if (working) return working();
  if (grip !== null && open) return grippedBy(composite, open, grip, start);
  return ungripped(composite, open, start, event);
}

/** Return what begins where the next press has been asked for. */
function asked(start: Point, event: PointerEvent<Element>, desk: DeskActions): Drag | null {
  return blankDrag(start) ?? spotDrag(start, event, desk);
}

/** Return what begins of the sheet, or of several layers at once. */
function forMany(
  composite: Composite,
  open: Layer | undefined,
  grip: Grip | null,
  start: Point,
  event: PointerEvent<Element>,
): Drag | null {
  return sheetDrag(composite, grip, start) ?? withMany(composite, open, grip, start, event);
}

/** Where no grip is: the photo in its frame while that is cropped, or a layer. */
function ungripped(
  composite: Composite,
  open: Layer | undefined,
  start: Point,
  event: PointerEvent<Element>,
): Drag | null {
  const inside = isCropping(open) && canBeTaken(composite, open, start) && !event.altKey;
  return inside ? insideDrag(composite, open, start) : takenLayer(composite, open, start, event);
}

/** Begin a ring, or what is done with several layers at once; null for one alone. */
function withMany(
  composite: Composite,
  open: Layer | undefined,
  grip: Grip | null,
  start: Point,
  event: PointerEvent<Element>,
): Drag | null {
  if (open && worksInside(open)) return null;
  if (event.shiftKey && grip === null) {
    return beginRing(start, taking(composite.layers, start, composite.canvas, event)?.id ?? null);
  }
  const layers = manyChosen(composite);
  if (layers.length === 0) return null;
  if (grip !== null) return isLayerGrip(grip) ? chosenDrag(composite, grip, start) : null;
  if (layers.some((layer) => liesOn(layer, start))) return chosenDrag(composite, null, start);
  useDesk.getState().actions.choose([]);
  return null;
}

/** Tell whether a brush of any kind is in the hand. */
function brushNow(): boolean {
  return paintedNow() !== null || roughNow() || mendingNow();
}

/** Return what begins where the hand paints, marks or draws. */
function atWork(
  composite: Composite,
  event: PointerEvent<Element>,
  grip: Grip | null,
  desk: DeskActions,
): (() => Drag | null) | null {
  if (paintedNow()) return () => beginStroke(composite, event);
  if (roughNow()) return () => beginRough(composite, event);
  if (mendingNow()) return () => beginMend(composite, event);
  return drawnNow() && grip === null ? () => beginDrawing(composite, event, desk) : null;
}

/** Take the open layer if it lies there, or the front one; where nothing lies, close it. */
function takenLayer(
  composite: Composite,
  open: Layer | undefined,
  start: Point,
  event: PointerEvent<Element>,
): Drag | null {
  const under = layerUnder(composite, open, start, event);
  const keepsOpen = isPlaced(open) && canBeTaken(composite, open, start);
  const layer = keepsOpen ? open : taking(composite.layers, start, composite.canvas, event);
  if (!layer) {
    useDesk.getState().actions.open(null);
    return null;
  }
  if (event.ctrlKey) return copyDrag(layer, start);
  if (!keepsOpen) useDesk.getState().actions.open(layer.id);
  return {
    kind: "layer",
    layer: onCanvas(composite, layer),
    grip: null,
    start,
    under: under?.id ?? null,
    isStill: keepsOpen && worksInside(layer),
    moved: false,
  };
}

/** Move a copy, and leave the layer where it is. */
function copyDrag({ id }: Layer, start: Point): OwnDrag {
  const copy = newId();
  return {
    kind: "own",
    opens: copy,
    edit: (to) => ({
      kind: "duplicate_layer",
      layer_id: id,
      copy_id: copy,
      shift: [to.x - start.x, to.y - start.y],
    }),
  };
}

function grippedBy(composite: Composite, open: Layer, grip: Grip, start: Point): Drag | null {
  if (worksInside(open)) return ownDrag(composite, open, grip);
  const shaping = open.kind === "photo" ? shapingDrag(composite, open, grip) : null;
  if (shaping) return shaping;
  if (open.kind === "gradient" && isGradientGrip(grip)) {
    return { kind: "gradient", layer: open, gradient: gradientOnCanvas(composite, open), grip };
  }
  if (!isPlaced(open) || !isLayerGrip(grip)) return null;
  const layer = onCanvas(composite, open);
  return { kind: "layer", layer, grip, start, under: null, isStill: false, moved: false };
}

/** Tell whether the hand moves a photo in its frame, and not with it. */
function isCropping(layer: Layer | undefined): layer is PhotoLayer {
  const { facet, line } = useDesk.getState();
  return layer?.kind === "photo" && facetFor(layer, facet) === "place" && line === "crop";
}

function worksInside(layer: Layer): boolean {
  const facet = facetFor(layer, useDesk.getState().facet);
  return facet !== "place" && facet !== "wash" && facet !== "blend";
}

function canBeTaken(composite: Composite, layer: PlacedLayer, at: Point): boolean {
  return layer.visible && !isLocked(composite, layer.id) && liesOn(onCanvas(composite, layer), at);
}

/** Return what a click takes: in the open group, or beside the open member, what lies there. */
function layerUnder(
  composite: Composite,
  open: Layer | undefined,
  at: Point,
  keys: Keys,
): PlacedLayer | undefined {
  const groups = open ? [...groupsAround(composite, open.id)] : [];
  if (open?.kind === "group") groups.push(open);
  const group = groups.at(-1);
  const inside = groups.reduce((point, one) => toSource(one, point), at);
  return (
    (group && taking(group.layers, inside, group, keys)) ??
    taking(composite.layers, at, composite.canvas, keys)
  );
}

interface Keys {
  readonly altKey: boolean;
}

/** Return what a click takes of one pile; with Alt whatever lies frontmost, veils too. */
function taking(
  layers: readonly Layer[],
  at: Point,
  sheet: Size,
  { altKey }: Keys,
): PlacedLayer | undefined {
  const found = layersAt(layers, at);
  return altKey ? found[0] : takenByClick(found, sheet);
}

function dragLayer(drag: LayerDrag, event: PointerEvent<Element>): void {
  const view = viewInForce();
  const composite = expectedComposite();
  if (!view || !composite) return;
  const to = stageToCanvas(view, stagePoint(event));
  const distance = Math.hypot(to.x - drag.start.x, to.y - drag.start.y) * view.scale;
  if (drag.isStill || (!drag.moved && distance < SLACK)) return;
  drag.moved = true;
  useDesk.getState().actions.setLive({
    kind: "place_layer",
    layer_id: drag.layer.id,
    placement: intoPile(composite, drag.layer.id, draggedTo(drag, to, event)),
  });
}

function draggedTo(
  drag: LayerDrag,
  to: Point,
  keys: { readonly shiftKey: boolean; readonly altKey: boolean },
): Placement {
  const { layer, grip, start } = drag;
  if (grip === null) {
    const by = { x: to.x - start.x, y: to.y - start.y };
    const snap = restFor(drag, by, keys.altKey);
    return movedBy(layer.placement, by.x + snap.x, by.y + snap.y);
  }
  if (grip === "turn") return turnedTowards(layer.placement, to, keys.shiftKey ? TURN_STEP : null);
  const free = keys.shiftKey && layer.kind !== "group";
  return scaledByCorner(layer, grip, to, { free, aboutMiddle: keys.altKey });
}

/** Return how far from where the hand has it a layer comes to rest. */
function restFor(drag: LayerDrag, by: Point, isFree: boolean): Point {
  const composite = expectedComposite();
  if (!composite) return { x: 0, y: 0 };
  drag.others ??= othersOf(composite, [drag.layer.id]);
  return snapFor(composite, shiftedBounds(boundsOf(drag.layer), by.x, by.y), drag.others, isFree);
}

function dragGradient(drag: GradientDrag, event: PointerEvent<Element>): void {
  const view = viewInForce();
  const composite = expectedComposite();
  if (!view || !composite) return;
  const to = stageToCanvas(view, stagePoint(event));
  const gradient = draggedGradient(drag.gradient, drag.grip, to);
  useDesk.getState().actions.setLive({
    kind: "grade_layer",
    layer_id: drag.layer.id,
    gradient: gradientIntoPile(composite, drag.layer.id, gradient),
  });
}

/** Make what was dragged an edit; a press that did not move takes the layer under it. */
function letGo(drag: LayerDrag | GradientDrag | OwnDrag, desk: DeskActions): void {
  const { live, actions } = useDesk.getState();
  const made = live && drag.kind === "own" && drag.ends ? drag.ends() : live;
  if (made) {
    desk.edit(made);
    if (drag.kind === "own" && drag.opens) actions.open(drag.opens);
  } else if (drag.kind === "layer" && drag.under && drag.grip === null) actions.open(drag.under);
  actions.setLive(null);
}

function pan(drag: Extract<Drag, { kind: "pan" }>, to: Point): void {
  const view = viewInForce();
  if (!view) return;
  useDesk.getState().actions.setView(pannedBy(view, to.x - drag.last.x, to.y - drag.last.y));
  drag.last = to;
}

/** Return where the menu was asked for: by the key, in the middle of what is shown. */
function menuPoint(event: MouseEvent<Element>): Point {
  const box = event.currentTarget.getBoundingClientRect();
  const byKey = event.clientX === 0 && event.clientY === 0;
  if (byKey || event.button !== SECOND_BUTTON) return { x: box.width / 2, y: box.height / 2 };
  return { x: event.clientX - box.left, y: event.clientY - box.top };
}

const CORNERS: readonly Grip[] = [0, 1, 2, 3];

function gripOf(target: EventTarget): Grip | null {
  const name = target instanceof Element ? target.getAttribute("data-grip") : null;
  if (name === null) return null;
  return CORNERS[Number(name)] ?? (name as Grip);
}

function isLayerGrip(grip: Grip): grip is Corner | "turn" {
  return typeof grip === "number" || grip === "turn";
}

function isGradientGrip(grip: Grip): grip is GradientGrip {
  return grip === "start" || grip === "middle" || grip === "end";
}

/** Tell whether a key is meant for the stage: it has the focus, or nothing has. */
export function isOnStage(target: EventTarget | null): boolean {
  if (target === document.body) return true;
  return target instanceof Element && target.closest("[data-stage]") !== null;
}

function useSpaceHeld(): boolean {
  const [held, setHeld] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const ours = isOnStage(event.target);
      // Elsewhere the space bar presses buttons and types.
      if (event.key !== " " || (event.type === "keydown" && !ours)) return;
      setHeld(event.type === "keydown");
      if (ours) event.preventDefault();
    };
    const letGo = () => setHeld(false);
    window.addEventListener("keydown", onKey);
    window.addEventListener("keyup", onKey);
    window.addEventListener("blur", letGo);
    return () => {
      window.removeEventListener("keydown", onKey);
      window.removeEventListener("keyup", onKey);
      window.removeEventListener("blur", letGo);
    };
  }, []);
  return held;
}
