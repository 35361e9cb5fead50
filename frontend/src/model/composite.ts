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

export interface Layer {
  readonly id: string;
  readonly kind: "photo";
  readonly name: string;
  readonly picture: string;
  readonly width: number;
  readonly height: number;
  readonly placement: Placement;
  readonly blend: BlendMode;
  readonly opacity: number;
  readonly visible: boolean;
  readonly locked: boolean;
}

export interface Canvas {
  readonly width: number;
  readonly height: number;
  readonly ppi: number;
  readonly background: string | null;
}

export interface Composite {
  readonly schema_version: 1;
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
  | { readonly kind: "move_layer"; readonly layer_id: string; readonly index: number }
  | {
      readonly kind: "set_canvas";
      readonly canvas: Canvas;
      readonly shift_x: number;
      readonly shift_y: number;
    };

/** Return the layer with an id, if the composite has it. */
export function layerById(composite: Composite, id: string | null): Layer | undefined {
  return composite.layers.find((layer) => layer.id === id);
}
