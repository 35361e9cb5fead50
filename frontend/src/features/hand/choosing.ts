/** The hand on several layers: a ring drawn round them, and moving them as one. */

import { type Drag, type Press, type Pull, pulling } from "@/features/hand/drag";
import { isLayerGrip, type LayerGrip, layerGrip } from "@/features/hand/layerGrips";
import { othersOf, shiftedBounds, snapFor } from "@/features/hand/resting";
import { goneOn } from "@/features/hand/roughStroke";
import { taking, worksInside } from "@/features/hand/underHand";
import {
  carryAll,
  chosenOnCanvas,
  layersInRing,
  movable,
  scalingAbout,
  toggled,
  turningAbout,
} from "@/model/choosing";
import { type Composite, groupsAround, type PlacedLayer } from "@/model/composite";
import { liesOn, toSource } from "@/model/geometry";
import type { Point } from "@/model/points";
import { boundsOf, unionOf } from "@/model/snapping";
import { useDesk } from "@/state/desk/desk";
import { useHelping } from "@/state/helping";
import { expectedComposite } from "@/state/project";

const TURN_STEP = 15;

/** What is dragged of several layers as one. */
type ChosenGrip = LayerGrip | null;

/** Begin a ring, or what is done with several layers at once. */
export function choosing(press: Press): Drag | undefined {
  const { composite, open, grip, touch } = press;
  if (open && worksInside(open)) return undefined;
  if (touch.shiftKey && grip === null) return ringDrag(press);
  const layers = manyChosen(composite);
  if (layers.length === 0) return undefined;
  if (grip !== null) return isLayerGrip(grip) ? chosenDrag(press, layerGrip(grip)) : undefined;
  if (layers.some((layer) => liesOn(layer, touch.at))) return chosenDrag(press, null);
  useDesk.getState().actions.choose([]);
  return undefined;
}

function chosenDrag({ composite, touch, desk }: Press, grip: ChosenGrip): Drag | undefined {
  const pull = chosenPull(composite, grip, touch.at);
  return pull ? pulling(desk, pull) : undefined;
}

/** Draw a ring round layers; a press that does not move chooses one, or lets it go. */
function ringDrag({ composite, touch }: Press): Drag {
  const under = taking(composite.layers, touch.at, composite.canvas, touch)?.id ?? null;
  const { setRing } = useHelping.getState();
  let points: readonly Point[] = [touch.at];
  return {
    move: ({ at, view }) => {
      points = goneOn(points, at, view.scale);
      setRing(points);
    },
    end: () => {
      setRing(null);
      const now = expectedComposite();
      if (now) chooseInRing(now, points, under);
    },
    cancel: () => setRing(null),
  };
}

const FEWEST = 4;

/** Choose what the ring lies round; a mere press chooses the layer under it, or lets it go. */
function chooseInRing(composite: Composite, points: readonly Point[], under: string | null): void {
  const { actions, chosen, openLayer } = useDesk.getState();
  if (points.length < FEWEST) {
    if (under) actions.choose(toggled(composite, chosen, openLayer, under));
    return;
  }
  const groups = openLayer ? groupsAround(composite, openLayer) : [];
  const inside = (at: Point) => groups.reduce((point, group) => toSource(group, point), at);
  const layers = groups.at(-1)?.layers ?? composite.layers;
  actions.choose(layersInRing(layers, points.map(inside)).map((layer) => layer.id));
}

/** What moving, scaling or turning all chosen layers does. */
function chosenPull(composite: Composite, grip: ChosenGrip, start: Point): Pull | null {
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
      edit: (touch) => {
        const by = { x: touch.at.x - start.x, y: touch.at.y - start.y };
        const at = shiftedBounds(around, by.x, by.y);
        const snap = snapFor(composite, at, others, touch);
        const carrying = { x: by.x + snap.x, y: by.y + snap.y, scale: 1, turn: 0 };
        return carryAll(composite, layers, carrying, "moved");
      },
    };
  }
  if (grip === "turn") {
    return {
      edit: ({ at, shiftKey }) => {
        const angle = (Math.atan2(at.x - middle.x, middle.y - at.y) * 180) / Math.PI;
        const turn = shiftKey ? Math.round(angle / TURN_STEP) * TURN_STEP : angle;
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
    edit: ({ at, altKey }) => {
      const fixed = altKey ? middle : (corners[(grip + 2) % 4] as Point);
      const [dx, dy] = [from.x - fixed.x, from.y - fixed.y];
      const share = ((at.x - fixed.x) * dx + (at.y - fixed.y) * dy) / (dx * dx + dy * dy || 1);
      return carryAll(composite, layers, scalingAbout(fixed, Math.max(share, 0.01)), "scaled");
    },
  };
}

/** Return the layers that are worked on as one; none where it is not several. */
export function manyChosen(composite: Composite): readonly PlacedLayer[] {
  const found = chosenOnCanvas(composite, useDesk.getState().chosen);
  return found.length > 1 ? found : [];
}
