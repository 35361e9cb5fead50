/** The commands of the keyboard and of the open layer's buttons. */

import { NAME_LAYER } from "@generated/limits";
import { v4 as newId } from "uuid";
import { carryAll, chosenOnCanvas, movable, toggled } from "@/model/choosing";
import {
  type Composite,
  type Edit,
  type GroupLayer,
  groupsAround,
  isLocked,
  isPlaced,
  type Layer,
  layerById,
  type PlacedLayer,
  siblingsOf,
} from "@/model/composite";
import { movedBy } from "@/model/geometry";
import { firstGradient } from "@/model/gradients";
import { MENDING } from "@/model/mends";
import { intoPile, onCanvas } from "@/model/nesting";
import { useBrush } from "@/state/brush";
import { useDesk } from "@/state/desk/desk";
import { expectedComposite } from "@/state/project";
import type { DeskActions } from "@/work/DeskContext";

/** Return the open layer as it will be once everything is answered. */
export function openLayer(): Layer | undefined {
  const composite = expectedComposite();
  return composite ? layerById(composite, useDesk.getState().openLayer) : undefined;
}

/** Move the layer by whole canvas pixels. */
export function nudge(desk: DeskActions, layer: Layer, x: number, y: number): void {
  const composite = expectedComposite();
  if (!composite || !isPlaced(layer) || isLocked(composite, layer.id)) return;
  const moved = movedBy(onCanvas(composite, layer).placement, x, y);
  desk.edit({
    kind: "place_layer",
    layer_id: layer.id,
    placement: intoPile(composite, layer.id, moved),
  });
}

/** Move all chosen layers by whole canvas pixels. */
export function nudgeChosen(desk: DeskActions, x: number, y: number): void {
  const composite = expectedComposite();
  if (!composite) return;
  const layers = movable(composite, chosenOnCanvas(composite, useDesk.getState().chosen));
  if (layers.length === 0) return;
  desk.edit(carryAll(composite, layers, { x, y, scale: 1, turn: 0 }, "moved"));
}

/** Choose the open layer with others, or let it go. */
export function chooseOpen(_: DeskActions, layer: Layer): void {
  const composite = expectedComposite();
  const { chosen, actions } = useDesk.getState();
  if (composite) actions.choose(toggled(composite, chosen, null, layer.id));
}

/** Make one group of the chosen layers that lie beside the first, and open that. */
export function groupChosen(desk: DeskActions): void {
  const composite = expectedComposite();
  const { chosen, actions } = useDesk.getState();
  const first = chosen[0];
  if (!composite || !first) return;
  const beside = siblingsOf(composite, first).filter((layer) => chosen.includes(layer.id));
  const front = beside.at(-1);
  if (!front) return;
  const group = newId();
  desk.edit({
    kind: "group_layers",
    group_id: group,
    name: `${front.name} and others`.slice(0, NAME_LAYER.name.maxLength),
    layer_ids: beside.map((layer) => layer.id),
    mode: beside.every((layer) => layer.blend === front.blend) ? front.blend : "normal",
  });
  actions.choose([]);
  actions.open(group, "place");
}

/** Take all chosen layers away that are not locked. */
export function removeChosen(desk: DeskActions): void {
  const composite = expectedComposite();
  const { chosen, actions } = useDesk.getState();
  if (!composite) return;
  for (const id of chosen) {
    const layer = layerById(composite, id);
    if (layer && !isLocked(composite, id)) desk.edit({ kind: "remove_layer", layer_id: id });
  }
  actions.choose([]);
  actions.open(null);
}

/** Bring the layer forward, or send it back with -1, by one place in its own group. */
export function shiftInPile(desk: DeskActions, layer: Layer, by: 1 | -1): void {
  const composite = expectedComposite();
  if (!composite) return;
  const layers = siblingsOf(composite, layer.id);
  const index = layers.findIndex((one) => one.id === layer.id) + by;
  if (index < 0 || index >= layers.length) return;
  const into = groupsAround(composite, layer.id).at(-1)?.id ?? null;
  desk.edit({ kind: "move_layer", layer_id: layer.id, index, into });
}

/** Return the layer that lies right beneath another in the same group. */
export function beneath(composite: Composite, layer: Layer): Layer | undefined {
  const layers = siblingsOf(composite, layer.id);
  return layers[layers.findIndex((one) => one.id === layer.id) - 1];
}

/**
 * Make one group of the layer and the one beneath it, and open that. It blends as they
 * do, if they do so alike: two multiplied layers still multiply what lies beneath.
 */
export function putTogether(desk: DeskActions, layer: Layer): void {
  const composite = expectedComposite();
  const below = composite ? beneath(composite, layer) : undefined;
  if (!below) return;
  const group = newId();
  desk.edit({
    kind: "group_layers",
    group_id: group,
    name: `${below.name} and ${layer.name}`.slice(0, NAME_LAYER.name.maxLength),
    layer_ids: [below.id, layer.id],
    mode: below.blend === layer.blend ? layer.blend : "normal",
  });
  useDesk.getState().actions.open(group, "place");
}

/** Put the layer into a group, in front of what is there. */
export function putInto(desk: DeskActions, layer: Layer, group: GroupLayer): void {
  const index = group.layers.length;
  desk.edit({ kind: "move_layer", layer_id: layer.id, index, into: group.id });
}

/** Take the layer out of its group; it then lies right over that. */
export function takeOut(desk: DeskActions, layer: Layer): void {
  const composite = expectedComposite();
  const groups = composite ? groupsAround(composite, layer.id) : [];
  const group = groups.at(-1);
  if (!composite || !group) return;
  const index = siblingsOf(composite, group.id).findIndex((one) => one.id === group.id) + 1;
  const into = groups.at(-2)?.id ?? null;
  desk.edit({ kind: "move_layer", layer_id: layer.id, index, into });
}

/** Take a group apart; its members stay where they show. */
export function takeApart(desk: DeskActions, layer: Layer): void {
  const composite = expectedComposite();
  if (layer.kind !== "group" || !composite || isLocked(composite, layer.id)) return;
  desk.edit({ kind: "dissolve_group", layer_id: layer.id });
  useDesk.getState().actions.open(layer.layers.at(-1)?.id ?? null);
}

const FIRST_COLOR = "#c0562f";

/** Lay a colour over everything, and open it. */
export function layColor(desk: DeskActions): void {
  const id = newId();
  desk.edit({ kind: "add_color", layer_id: id, name: "Colour", color: FIRST_COLOR, index: null });
  useDesk.getState().actions.open(id, "wash");
}

/** Lay a colour over a photo that shows only where it will be painted; take up the brush. */
export function paintColor(
  desk: DeskActions,
  layer: PlacedLayer,
  { name, color }: { readonly name: string; readonly color: string },
): void {
  const [color_id, part_id] = [newId(), newId()];
  desk.edit({
    kind: "color_by_brush",
    layer_id: layer.id,
    color_id,
    group_id: newId(),
    part_id,
    name,
    color,
  });
  const { open, openLine } = useDesk.getState().actions;
  open(color_id, "cut");
  openLine(part_id);
  useBrush.getState().set({ shows: true });
}

/** Lay a gradient over everything, and open it. */
export function layGradient(desk: DeskActions): void {
  const canvas = expectedComposite()?.canvas;
  if (!canvas) return;
  const id = newId();
  const gradient = firstGradient(canvas, FIRST_COLOR);
  desk.edit({ kind: "add_gradient", layer_id: id, name: "Gradient", gradient, index: null });
  useDesk.getState().actions.open(id, "wash");
}

/** Tone everything there is so far, and open that. */
export function layToning(desk: DeskActions): void {
  const id = newId();
  desk.edit({ kind: "add_toning", layer_id: id, name: "Tones", tones: [], index: null });
  useDesk.getState().actions.open(id, "tone");
}

/** Mend what everything there is so far shows, and begin at once. */
export function layMending(desk: DeskActions): void {
  const id = newId();
  desk.edit({ kind: "add_mending", layer_id: id, name: "Repairs", index: null });
  const { open, openLine } = useDesk.getState().actions;
  open(id, "cut");
  openLine(MENDING);
}

/** Lay a copy over the layer and open it. */
export function duplicate(desk: DeskActions, layer: Layer): void {
  const copy = newId();
  desk.edit({ kind: "duplicate_layer", layer_id: layer.id, copy_id: copy });
  useDesk.getState().actions.open(copy);
}

/** Take the layer away and open none. */
export function remove(desk: DeskActions, layer: Layer): void {
  const composite = expectedComposite();
  if (!composite || isLocked(composite, layer.id)) return;
  desk.edit({ kind: "remove_layer", layer_id: layer.id });
  useDesk.getState().actions.open(null);
}

export function toggleShown(desk: DeskActions, layer: Layer): void {
  desk.edit({ kind: "show_layer", layer_id: layer.id, visible: !layer.visible });
}

export function toggleLocked(desk: DeskActions, layer: Layer): void {
  desk.edit({ kind: "lock_layer", layer_id: layer.id, locked: !layer.locked });
}

type AddLayer = Extract<Edit, { kind: "add_layer" }>;

/** Lay a picture of the shelf over everything, and open it. */
export function layOn(
  desk: DeskActions,
  picture: { id: string; name: string; width: number; height: number },
  where: Pick<AddLayer, "at" | "beside"> = {},
): string {
  const id = newId();
  desk.edit({
    kind: "add_layer",
    layer_id: id,
    picture: picture.id,
    name: picture.name,
    width: picture.width,
    height: picture.height,
    index: null,
    ...where,
  });
  // A photo may come in only after its desk was left: it lies there all the same.
  if (!desk.isLeft()) useDesk.getState().actions.open(id, "place");
  return id;
}
