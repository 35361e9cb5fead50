/** The commands of the keyboard and of the open layer's buttons. */

import type { DeskActions } from "@/features/desk/DeskContext";
import { type Layer, layerById } from "@/model/composite";
import { movedBy } from "@/model/geometry";
import { useDesk } from "@/state/desk";
import { expectedComposite } from "@/state/project";

/** Return the open layer as it will be once everything is answered. */
export function openLayer(): Layer | undefined {
  const composite = expectedComposite();
  return composite ? layerById(composite, useDesk.getState().openLayer) : undefined;
}

/** Move the layer by whole canvas pixels. */
export function nudge(desk: DeskActions, layer: Layer, x: number, y: number): void {
  if (layer.locked) return;
  desk.edit({
    kind: "place_layer",
    layer_id: layer.id,
    placement: movedBy(layer.placement, x, y),
  });
}

/** Bring the layer forward, or send it back with -1, by one place. */
export function shiftInPile(desk: DeskActions, layer: Layer, by: 1 | -1): void {
  const layers = expectedComposite()?.layers ?? [];
  const index = layers.findIndex((one) => one.id === layer.id) + by;
  if (index < 0 || index >= layers.length) return;
  desk.edit({ kind: "move_layer", layer_id: layer.id, index });
}

/** Lay a copy over the layer and open it. */
export function duplicate(desk: DeskActions, layer: Layer): void {
  const copy = crypto.randomUUID();
  desk.edit({ kind: "duplicate_layer", layer_id: layer.id, copy_id: copy });
  useDesk.getState().actions.open(copy);
}

/** Take the layer away and open none. */
export function remove(desk: DeskActions, layer: Layer): void {
  if (layer.locked) return;
  desk.edit({ kind: "remove_layer", layer_id: layer.id });
  useDesk.getState().actions.open(null);
}

export function toggleShown(desk: DeskActions, layer: Layer): void {
  desk.edit({ kind: "show_layer", layer_id: layer.id, visible: !layer.visible });
}

export function toggleLocked(desk: DeskActions, layer: Layer): void {
  desk.edit({ kind: "lock_layer", layer_id: layer.id, locked: !layer.locked });
}

/** Lay a picture of the shelf over everything, and open it. */
export function layOn(
  desk: DeskActions,
  picture: { id: string; name: string; width: number; height: number },
  at: [number, number] | null = null,
): void {
  const id = crypto.randomUUID();
  desk.edit({
    kind: "add_layer",
    layer_id: id,
    picture: picture.id,
    name: picture.name,
    width: picture.width,
    height: picture.height,
    index: null,
    at,
  });
  useDesk.getState().actions.open(id, "place");
}
