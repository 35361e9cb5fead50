/** The hand on several layers: a ring drawn round them, and moving them as one. */

import type { PointerEvent } from "react";
import type { OwnDrag } from "@/features/hand/ownDrags";
import { stagePoint } from "@/features/hand/useHold";
import {
  carryAll,
  chosenOnCanvas,
  layersInRing,
  movable,
  scalingAbout,
  toggled,
  turningAbout,
} from "@/model/choosing";
import { type Composite, groupsAround, type PlacedLayer, siblingsOf } from "@/model/composite";
import { toSource } from "@/model/geometry";
import type { Point } from "@/model/points";
import { boundsBeside, boundsOf, snapped, unionOf } from "@/model/snapping";
import { stageToCanvas } from "@/model/viewing";
import { useDesk } from "@/state/desk";
import { useHelping } from "@/state/helping";
import { viewInForce } from "@/work/zooming";

const SNAP_REACH = 7;
const TURN_STEP = 15;

/** A ring that is being drawn round layers. */
export interface RingDrag {
  readonly kind: "ring";
  /** What a press that does not move chooses, or lets go. */
  readonly under: string | null;
  readonly points: Point[];
}

export function beginRing(start: Point, under: string | null): RingDrag {
  return { kind: "ring", under, points: [start] };
}

export function carryRing(drag: RingDrag, event: PointerEvent<Element>): void {
  const view = viewInForce();
  if (!view) return;
  drag.points.push(stageToCanvas(view, stagePoint(event)));
  useHelping.getState().setRing([...drag.points]);
}

const FEWEST = 4;

/** Choose what the ring lies round; a mere press chooses the layer under it, or lets it go. */
export function endRing(drag: RingDrag, composite: Composite): void {
  const { actions, chosen, openLayer } = useDesk.getState();
  useHelping.getState().setRing(null);
  if (drag.points.length < FEWEST) {
    if (drag.under) actions.choose(toggled(composite, chosen, openLayer, drag.under));
    return;
  }
  const groups = openLayer ? groupsAround(composite, openLayer) : [];
  const inside = (at: Point) => groups.reduce((point, group) => toSource(group, point), at);
  const ring = drag.points.map(inside);
  const layers = groups.at(-1)?.layers ?? composite.layers;
  actions.choose(layersInRing(layers, ring).map((layer) => layer.id));
}

/** What moving, scaling or turning all chosen layers does. */
export function chosenDrag(
  composite: Composite,
  grip: 0 | 1 | 2 | 3 | "turn" | null,
  start: Point,
): OwnDrag | null {
  const layers = movable(composite, chosenOnCanvas(composite, useDesk.getState().chosen));
  if (layers.length === 0) return null;
  const around = unionOf(layers.map(boundsOf));
  const middle = { x: (around.left + around.right) / 2, y: (around.top + around.bottom) / 2 };
  if (grip === null) {
    const others = othersOf(
      composite,
      layers.map((layer) => layer.id),
    );
    return {
      kind: "own",
      edit: (to, keys) => {
        const by = { x: to.x - start.x, y: to.y - start.y };
        const at = shiftedBounds(around, by.x, by.y);
        const snap = snapFor(composite, at, others, keys.altKey);
        const carrying = { x: by.x + snap.x, y: by.y + snap.y, scale: 1, turn: 0 };
        return carryAll(composite, layers, carrying, "moved");
      },
    };
  }
  if (grip === "turn") {
    return {
      kind: "own",
      edit: (to, keys) => {
        const angle = (Math.atan2(to.x - middle.x, middle.y - to.y) * 180) / Math.PI;
        const turn = keys.shiftKey ? Math.round(angle / TURN_STEP) * TURN_STEP : angle;
        return carryAll(composite, layers, turningAbout(middle, turn), "turned");
      },
    };
  }
  const corners = [
    { x: around.left, y: around.top },
    { x: around.right, y: around.top },
    { x: around.right, y: around.bottom },
    { x: around.left, y: around.bottom },
  ];
  const from = corners[grip] as Point;
  return {
    kind: "own",
    edit: (to, keys) => {
      const fixed = keys.altKey ? middle : (corners[(grip + 2) % 4] as Point);
      const [dx, dy] = [from.x - fixed.x, from.y - fixed.y];
      const share = ((to.x - fixed.x) * dx + (to.y - fixed.y) * dy) / (dx * dx + dy * dy || 1);
      return carryAll(composite, layers, scalingAbout(fixed, Math.max(share, 0.01)), "scaled");
    },
  };
}

type Beside = ReturnType<typeof boundsBeside>;

/** Return what layers may snap to: those that lie beside them on the canvas. */
export function othersOf(composite: Composite, ids: readonly string[]): Beside {
  const first = ids[0];
  const group = first ? groupsAround(composite, first)[0] : undefined;
  if (!group) return boundsBeside(composite.layers, new Set(ids));
  // In a group, those beside it on the canvas count: positions are seen there.
  const siblings = first ? siblingsOf(composite, first) : [];
  const inside = chosenOnCanvas(
    composite,
    siblings.filter((one) => one.visible && !ids.includes(one.id)).map((one) => one.id),
  );
  return inside.map(boundsOf);
}

/** Return where bounds come to rest, and show it; nowhere else with Alt held. */
export function snapFor(
  composite: Composite,
  at: Beside[number],
  others: Beside,
  isFree: boolean,
): { readonly x: number; readonly y: number } {
  const view = viewInForce();
  const { setSnap } = useHelping.getState();
  if (isFree || !view) {
    setSnap(null);
    return { x: 0, y: 0 };
  }
  const snap = snapped(at, others, composite.canvas, SNAP_REACH / view.scale);
  setSnap(snap);
  return snap;
}

export function shiftedBounds(bounds: Beside[number], x: number, y: number): Beside[number] {
  return {
    left: bounds.left + x,
    right: bounds.right + x,
    top: bounds.top + y,
    bottom: bounds.bottom + y,
  };
}

/** Return the layers that are worked on as one; none where it is not several. */
export function manyChosen(composite: Composite): readonly PlacedLayer[] {
  const found = chosenOnCanvas(composite, useDesk.getState().chosen);
  return found.length > 1 ? found : [];
}
