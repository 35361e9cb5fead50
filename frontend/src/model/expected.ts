/**
 * What the service will answer to edits that wait or are under way, as far as the page
 * must know it at once: where grips lie, what the pile's order is. The service's own
 * answer always replaces it.
 */

import {
  type Composite,
  type Edit,
  groupsAround,
  isMended,
  isPlaced,
  isToned,
  type Layer,
  type Mask,
  type MendedLayer,
  type Placement,
  type TonedLayer,
} from "@/model/composite";
import { EMPTY_MASK } from "@/model/masks";
import { carriedBy } from "@/model/nesting";

/** Return the composite with edits applied that the service has not answered yet. */
export function withEdits(composite: Composite, edits: readonly Edit[]): Composite {
  return edits.reduce(withEdit, composite);
}

function withEdit(composite: Composite, edit: Edit): Composite {
  switch (edit.kind) {
    case "add_layer":
    case "add_color":
    case "add_gradient":
    case "add_toning":
    case "add_mending":
    case "add_words":
    case "copy_tones":
    case "part_match":
    case "color_by_brush":
    case "duplicate_layer":
    case "group_layers":
    case "dissolve_group":
    case "link_mask":
    case "copy_mask":
    case "copy_fades":
    case "link_fade":
    case "melt_photos":
    case "align_layers":
    case "space_layers":
    case "exchange_photo":
      // What comes of them is the service's to say; it shows when it has answered.
      return composite;
    case "remove_layer":
      return { ...composite, layers: replaced(composite.layers, edit.layer_id, () => []) };
    case "move_layer":
      return moved(composite, edit);
    case "set_canvas":
      return { ...composite, canvas: edit.canvas, layers: composite.layers.map(carried(edit)) };
    case "place_layers":
      return { ...composite, layers: edit.places.reduce(placedOne, composite.layers) };
    case "tint_sheet":
      return { ...composite, canvas: { ...composite.canvas, background: edit.background } };
    default:
      return {
        ...composite,
        layers: replaced(composite.layers, edit.layer_id, (layer) => [changed(layer, edit)]),
      };
  }
}

function carried(edit: Extract<Edit, { kind: "set_canvas" }>): (layer: Layer) => Layer {
  const { shift_x: x = 0, shift_y: y = 0, scale = 1, turn = 0 } = edit;
  return carriedBy({ x, y, scale, turn });
}

function placedOne(
  layers: readonly Layer[],
  { layer_id, placement }: { readonly layer_id: string; readonly placement: Placement },
): readonly Layer[] {
  return replaced(layers, layer_id, (layer) => [isPlaced(layer) ? { ...layer, placement } : layer]);
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
      | "set_words"
      | "name_layer"
      | "show_layer"
      | "lock_layer"
      | "fade_layer"
      | "tone_layer"
      | "shade_layer"
      | "mend_photo"
      | "switch_mend"
      | "remove_mend"
      | MaskEdit["kind"];
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
    case "set_words":
      // How large they are follows from their fonts: that is the service's to say.
      return layer.kind === "words" ? { ...layer, words: edit.words } : layer;
    case "blend_layer":
      return { ...layer, blend: edit.mode, opacity: edit.opacity };
    case "name_layer":
      return { ...layer, name: edit.name };
    case "show_layer":
      return { ...layer, visible: edit.visible };
    case "lock_layer":
      return { ...layer, locked: edit.locked };
    case "fade_layer":
      return { ...layer, fades: edit.fades };
    case "mend_photo":
    case "switch_mend":
    case "remove_mend":
      return mended(layer, edit);
    case "shade_layer":
      return { ...layer, effects: edit.effects };
    case "tone_layer":
      return retoned(layer, edit.tones);
    default:
      return { ...layer, mask: masked(layer.mask ?? EMPTY_MASK, edit) };
  }
}

function retoned(layer: Layer, tones: TonedLayer["tones"]): Layer {
  return isToned(layer) ? { ...layer, tones } : layer;
}

type MendEdit = Extract<Edit, { kind: "mend_photo" | "switch_mend" | "remove_mend" }>;

function mended(layer: Layer, edit: MendEdit): Layer {
  if (!isMended(layer)) return layer;
  return { ...layer, mends: mendsAfter(layer.mends, edit) };
}

function mendsAfter(mends: MendedLayer["mends"], edit: MendEdit): MendedLayer["mends"] {
  switch (edit.kind) {
    case "mend_photo":
      return [...mends, edit.mend];
    case "switch_mend":
      return mends.map((one) => (one.id === edit.mend_id ? { ...one, works: edit.works } : one));
    case "remove_mend":
      return mends.filter((one) => one.id !== edit.mend_id);
  }
}

type MaskEdit = Extract<
  Edit,
  {
    kind:
      | "add_part"
      | "change_part"
      | "remove_part"
      | "move_part"
      | "settle_mask"
      | "drop_mask"
      | "paint_stroke"
      | "cut_out";
  }
>;

/** A mask without parts hides nothing, and is none. */
function masked(mask: Mask, edit: MaskEdit): Mask | null {
  const changed = maskAfter(mask, edit);
  return changed.parts.length > 0 ? changed : null;
}

/** What is painted has one stroke more; what that leaves is the service's to say. */
function paintedOver(parts: Mask["parts"], id: string): Mask["parts"] {
  if (!parts.some((part) => part.id === id)) {
    const fresh = { join: "keep", inverted: false, works: true, last: null, strokes: 1 } as const;
    return [...parts, { ...fresh, kind: "painted", id }];
  }
  return parts.map((part) =>
    part.id === id && part.kind === "painted" ? { ...part, strokes: part.strokes + 1 } : part,
  );
}

function maskAfter(mask: Mask, edit: MaskEdit): Mask {
  const { parts } = mask;
  switch (edit.kind) {
    case "add_part":
      return { ...mask, parts: parts.toSpliced(edit.index ?? parts.length, 0, edit.part) };
    case "change_part":
      return { ...mask, parts: parts.map((one) => (one.id === edit.part.id ? edit.part : one)) };
    case "cut_out":
      return cutOut(mask, edit.part);
    case "remove_part":
      return { ...mask, parts: parts.filter((one) => one.id !== edit.part_id) };
    case "move_part": {
      const part = parts.find((one) => one.id === edit.part_id);
      const others = parts.filter((one) => one !== part);
      return part ? { ...mask, parts: others.toSpliced(edit.index, 0, part) } : mask;
    }
    case "settle_mask":
      return {
        ...mask,
        inverted: edit.inverted,
        strength: edit.strength,
        softened: edit.softened ?? 0,
        grown: edit.grown ?? 0,
        smoothed: edit.smoothed ?? 0,
        cleaned: edit.cleaned ?? 0,
      };
    case "drop_mask":
      return EMPTY_MASK;
    case "paint_stroke":
      return { ...mask, parts: paintedOver(parts, edit.part_id) };
  }
}

/** With the first that was found the edge is cleaned too. */
function cutOut(mask: Mask, part: Mask["parts"][number]): Mask {
  const { parts } = mask;
  if (parts.some((one) => one.id === part.id)) {
    return { ...mask, parts: parts.map((one) => (one.id === part.id ? part : one)) };
  }
  const isFirst = parts.every((one) => one.kind !== "matte");
  return { ...mask, cleaned: isFirst ? 1 : mask.cleaned, parts: [...parts, part] };
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
