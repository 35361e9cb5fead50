/**
 * What the service will answer to edits that wait or are under way, as far as the page
 * must know it at once: where grips lie, what the pile's order is. The service's own
 * answer always replaces it.
 */

import type { Composite, Edit, Layer } from "@/model/composite";

/** Return the composite with edits applied that the service has not answered yet. */
export function withEdits(composite: Composite, edits: readonly Edit[]): Composite {
  return edits.reduce(withEdit, composite);
}

function withEdit(composite: Composite, edit: Edit): Composite {
  switch (edit.kind) {
    case "add_layer":
    case "duplicate_layer":
      // Their place is the service's to say; they show when it has answered.
      return composite;
    case "remove_layer":
      return { ...composite, layers: composite.layers.filter((one) => one.id !== edit.layer_id) };
    case "move_layer":
      return moved(composite, edit.layer_id, edit.index);
    case "set_canvas":
      return { ...composite, canvas: edit.canvas, layers: composite.layers.map(shifted(edit)) };
    default:
      return {
        ...composite,
        layers: composite.layers.map((one) =>
          one.id === edit.layer_id ? { ...one, ...changes(edit) } : one,
        ),
      };
  }
}

function changes(
  edit: Extract<
    Edit,
    { kind: "place_layer" | "blend_layer" | "name_layer" | "show_layer" | "lock_layer" }
  >,
): Partial<Layer> {
  switch (edit.kind) {
    case "place_layer":
      return { placement: edit.placement };
    case "blend_layer":
      return { blend: edit.mode, opacity: edit.opacity };
    case "name_layer":
      return { name: edit.name };
    case "show_layer":
      return { visible: edit.visible };
    case "lock_layer":
      return { locked: edit.locked };
  }
}

function moved(composite: Composite, id: string, index: number): Composite {
  const layer = composite.layers.find((one) => one.id === id);
  if (!layer) return composite;
  const others = composite.layers.filter((one) => one.id !== id);
  return { ...composite, layers: [...others.slice(0, index), layer, ...others.slice(index)] };
}

function shifted(edit: Extract<Edit, { kind: "set_canvas" }>): (layer: Layer) => Layer {
  return (layer) => ({
    ...layer,
    placement: {
      ...layer.placement,
      x: layer.placement.x + edit.shift_x,
      y: layer.placement.y + edit.shift_y,
    },
  });
}
