/** Taking layers by a press on the picture. */

import { v4 as newId } from "uuid";
import { type Drag, type Press, type Pull, pulling } from "@/features/hand/drag";
import { layerPull } from "@/features/hand/moving";
import { insidePull } from "@/features/hand/shapingDrags";
import { canBeTaken, isCropping, layerUnder, taking, worksInside } from "@/features/hand/underHand";
import { isPlaced, type Layer } from "@/model/composite";
import type { Point } from "@/model/points";
import { useDesk } from "@/state/desk/desk";
import { facetAtOpening } from "@/state/desk/selection";

/** Begin to move a photo inside its frame, while that is cropped. */
export function shiftingInside({ composite, open, touch, desk }: Press): Drag | undefined {
  if (!isCropping(open) || touch.altKey || !canBeTaken(composite, open, touch.at)) {
    return undefined;
  }
  return pulling(desk, insidePull(composite, open, touch.at));
}

/** Take the open layer if it lies there, or the front one; where nothing lies, close it. */
export function takingLayer(press: Press): Drag | null {
  const { composite, open, touch, desk } = press;
  const { actions } = useDesk.getState();
  const under = layerUnder(composite, open, touch.at, touch);
  const keepsOpen = isPlaced(open) && canBeTaken(composite, open, touch.at);
  const layer = keepsOpen ? open : taking(composite.layers, touch.at, composite.canvas, touch);
  if (!layer) {
    actions.open(null);
    return null;
  }
  if (touch.ctrlKey) return pulling(desk, copyPull(layer, touch.at));
  if (!keepsOpen) actions.open(layer.id, facetAtOpening(layer));
  const clicked = () => {
    if (under && under.id !== open?.id) actions.open(under.id, facetAtOpening(under));
  };
  // In Cut and Fade the hand works on the layer, and does not move it.
  const isStill = keepsOpen && worksInside(layer);
  const pull = isStill ? STILL : layerPull(press, layer, null);
  return pulling(desk, { ...pull, clicked });
}

const STILL: Pull = { edit: () => null };

/** Move a copy, and leave the layer where it is. */
function copyPull({ id }: Layer, start: Point): Pull {
  const copy = newId();
  return {
    opens: copy,
    edit: ({ at }) => ({
      kind: "duplicate_layer",
      layer_id: id,
      copy_id: copy,
      shift: [at.x - start.x, at.y - start.y],
    }),
  };
}
