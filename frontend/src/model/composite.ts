/** The composite as the page knows it; the service's own types fit these. */

export interface Placement {
  readonly x: number;
  readonly y: number;
  readonly scale_x: number;
  readonly scale_y: number;
  readonly turn: number;
  readonly flipped: boolean;
  readonly upended: boolean;
}

export type BlendMode =
  | "normal"
  | "multiply"
  | "screen"
  | "overlay"
  | "darken"
  | "lighten"
  | "color-dodge"
  | "color-burn"
  | "hard-light"
  | "soft-light"
  | "difference"
  | "exclusion"
  | "hue"
  | "saturation"
  | "color"
  | "luminosity";

interface LayerBase {
  readonly id: string;
  readonly name: string;
  readonly blend: BlendMode;
  readonly opacity: number;
  readonly visible: boolean;
  readonly locked: boolean;
}

export interface PhotoLayer extends LayerBase {
  readonly kind: "photo";
  readonly picture: string;
  readonly width: number;
  readonly height: number;
  readonly placement: Placement;
}

export interface ColorLayer extends LayerBase {
  readonly kind: "color";
  readonly color: string;
}

export interface Stop {
  readonly color: string;
  readonly opacity: number;
}

export interface Gradient {
  readonly shape: "linear" | "round";
  readonly x: number;
  readonly y: number;
  readonly length: number;
  readonly angle: number;
  readonly start: Stop;
  readonly end: Stop;
}

export interface GradientLayer extends LayerBase {
  readonly kind: "gradient";
  readonly gradient: Gradient;
}

export interface GroupLayer extends LayerBase {
  readonly kind: "group";
  readonly width: number;
  readonly height: number;
  readonly placement: Placement;
  /** From back to front. */
  readonly layers: readonly Layer[];
}

export type PlacedLayer = PhotoLayer | GroupLayer;
export type WashLayer = ColorLayer | GradientLayer;
export type Layer = PlacedLayer | WashLayer;

export interface Canvas {
  readonly width: number;
  readonly height: number;
  readonly ppi: number;
  readonly background: string | null;
}

export interface Composite {
  readonly schema_version: 2;
  readonly canvas: Canvas;
  /** From back to front. */
  readonly layers: readonly Layer[];
}

export type Edit =
  | {
      readonly kind: "add_layer";
      readonly layer_id: string;
      readonly picture: string;
      readonly name: string;
      readonly width: number;
      readonly height: number;
      readonly index: number | null;
      readonly at: [number, number] | null;
    }
  | {
      readonly kind: "add_color";
      readonly layer_id: string;
      readonly name: string;
      readonly color: string;
      readonly index: number | null;
    }
  | {
      readonly kind: "add_gradient";
      readonly layer_id: string;
      readonly name: string;
      readonly gradient: Gradient;
      readonly index: number | null;
    }
  | { readonly kind: "tint_layer"; readonly layer_id: string; readonly color: string }
  | { readonly kind: "grade_layer"; readonly layer_id: string; readonly gradient: Gradient }
  | {
      readonly kind: "group_layers";
      readonly group_id: string;
      readonly name: string;
      readonly layer_ids: [string, ...string[]];
      readonly mode: BlendMode;
    }
  | { readonly kind: "dissolve_group"; readonly layer_id: string }
  | { readonly kind: "remove_layer"; readonly layer_id: string }
  | { readonly kind: "duplicate_layer"; readonly layer_id: string; readonly copy_id: string }
  | { readonly kind: "place_layer"; readonly layer_id: string; readonly placement: Placement }
  | {
      readonly kind: "blend_layer";
      readonly layer_id: string;
      readonly mode: BlendMode;
      readonly opacity: number;
    }
  | { readonly kind: "name_layer"; readonly layer_id: string; readonly name: string }
  | { readonly kind: "show_layer"; readonly layer_id: string; readonly visible: boolean }
  | { readonly kind: "lock_layer"; readonly layer_id: string; readonly locked: boolean }
  | {
      readonly kind: "move_layer";
      readonly layer_id: string;
      readonly index: number;
      readonly into: string | null;
    }
  | {
      readonly kind: "set_canvas";
      readonly canvas: Canvas;
      readonly shift_x: number;
      readonly shift_y: number;
    };

/** Return a layer and the groups that it lies in, the outermost first; empty if absent. */
export function pathTo(layers: readonly Layer[], id: string | null): readonly Layer[] {
  for (const layer of layers) {
    if (layer.id === id) return [layer];
    const inner = pathTo(membersOf(layer), id);
    if (inner.length > 0) return [layer, ...inner];
  }
  return [];
}

/** Return the layer with an id, if the composite has it. */
export function layerById(composite: Composite, id: string | null): Layer | undefined {
  return pathTo(composite.layers, id).at(-1);
}

/** Return the groups that a layer lies in, the outermost first. */
export function groupsAround(composite: Composite, id: string): readonly GroupLayer[] {
  return pathTo(composite.layers, id)
    .slice(0, -1)
    .filter((layer) => layer.kind === "group");
}

/** Return all layers that lie where this one does, from back to front. */
export function siblingsOf(composite: Composite, id: string): readonly Layer[] {
  return groupsAround(composite, id).at(-1)?.layers ?? composite.layers;
}

export function membersOf(layer: Layer): readonly Layer[] {
  return layer.kind === "group" ? layer.layers : [];
}

/** Count layers, those in groups too; a group itself is none. */
export function countLayers(layers: readonly Layer[]): number {
  return layers.reduce(
    (sum, layer) => sum + (layer.kind === "group" ? countLayers(layer.layers) : 1),
    0,
  );
}

export function isPlaced(layer: Layer | undefined): layer is PlacedLayer {
  return layer?.kind === "photo" || layer?.kind === "group";
}

/** Tell whether a layer, or a group around it, is locked. */
export function isHeld(composite: Composite, id: string): boolean {
  return pathTo(composite.layers, id).some((layer) => layer.locked);
}
