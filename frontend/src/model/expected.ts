/**
 * What the service will answer to edits that wait or are under way, as far as the page
 * must know it at once: where grips lie, what the pile's order is. The service's own
 * answer always replaces it.
 */

import { type Composite, type Edit, groupsAround, isPlaced, type Layer } from "@/model/composite";
import type { Point } from "@/model/geometry";

/** Return the composite with edits applied that the service has not answered yet. */
export function withEdits(composite: Composite, edits: readonly Edit[]): Composite {
  return edits.reduce(withEdit, composite);
}

function withEdit(composite: Composite, edit: Edit): Composite {
  switch (edit.kind) {
    case "add_layer":
    case "add_color":
    case "add_gradient":
    case "duplicate_layer":
    case "group_layers":
    case "dissolve_group":
      // What comes of them is the service's to say; it shows when it has answered.
      return composite;
    case "remove_layer":
      return { ...composite, layers: replaced(composite.layers, edit.layer_id, () => []) };
    case "move_layer":
      return moved(composite, edit);
    case "set_canvas":
      return { ...composite, canvas: edit.canvas, layers: composite.layers.map(shifted(edit)) };
    case "tint_sheet":
      return { ...composite, canvas: { ...composite.canvas, background: edit.background } };
    default:
      return {
        ...composite,
        layers: replaced(composite.layers, edit.layer_id, (layer) => [changed(layer, edit)]),
      };
  }
}

/** Put other layers in the place of one, at any depth; an empty group goes too. */
function replaced(
  layers: readonly Layer[],
  id: string,
  change: (layer: Layer) => readonly Layer[],
): readonly Layer[] {
  return layers.flatMap((layer) => {
    if (layer.id === id) return change(layer);
    if (layer.kind !== "group") return [layer];
    const inner = replaced(layer.layers, id, change);
    if (inner.length === 0) return [];
    return [inner === layer.layers ? layer : { ...layer, layers: inner }];
  });
}

type LayerChange = Extract<
  Edit,
  {
    kind:
      | "place_layer"
      | "blend_layer"
      | "tint_layer"
      | "grade_layer"
      | "name_layer"
      | "show_layer"
      | "lock_layer";
  }
>;

function changed(layer: Layer, edit: LayerChange): Layer {
  switch (edit.kind) {
    case "place_layer":
      return isPlaced(layer) ? { ...layer, placement: edit.placement } : layer;
    case "tint_layer":
      return layer.kind === "color" ? { ...layer, color: edit.color } : layer;
    case "grade_layer":
      return layer.kind === "gradient" ? { ...layer, gradient: edit.gradient } : layer;
    case "blend_layer":
      return { ...layer, blend: edit.mode, opacity: edit.opacity };
    case "name_layer":
      return { ...layer, name: edit.name };
    case "show_layer":
      return { ...layer, visible: edit.visible };
    case "lock_layer":
      return { ...layer, locked: edit.locked };
  }
}

/** Within its own group at once; into another one only as the service says. */
function moved(composite: Composite, edit: Extract<Edit, { kind: "move_layer" }>): Composite {
  const home = groupsAround(composite, edit.layer_id).at(-1);
  if ((home?.id ?? null) !== (edit.into ?? null)) return composite;
  const siblings = home?.layers ?? composite.layers;
  const layer = siblings.find((one) => one.id === edit.layer_id);
  if (!layer) return composite;
  const others = siblings.filter((one) => one !== layer);
  const layers = [...others.slice(0, edit.index), layer, ...others.slice(edit.index)];
  if (!home) return { ...composite, layers };
  return {
    ...composite,
    layers: replaced(composite.layers, home.id, () => [{ ...home, layers }]),
  };
}

function shifted(edit: Extract<Edit, { kind: "set_canvas" }>): (layer: Layer) => Layer {
  const by = <P extends Point>(at: P): P => ({
    ...at,
    x: at.x + (edit.shift_x ?? 0),
    y: at.y + (edit.shift_y ?? 0),
  });
  return (layer) => {
    if (isPlaced(layer)) return { ...layer, placement: by(layer.placement) };
    return layer.kind === "gradient" ? { ...layer, gradient: by(layer.gradient) } : layer;
  };
}
