/** Where layers come to rest while they are moved: on edges and middles of others. */

import type { Touch } from "@/features/hand/drag";
import { chosenOnCanvas } from "@/model/choosing";
import { type Composite, groupsAround, siblingsOf } from "@/model/composite";
import { boundsBeside, boundsOf, snapped } from "@/model/snapping";
import { useHelping } from "@/state/helping";

/** Pixels of the screen. */
const SNAP_REACH = 7;

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
  { view, altKey }: Touch,
): { readonly x: number; readonly y: number } {
  const { setSnap } = useHelping.getState();
  if (altKey) {
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
