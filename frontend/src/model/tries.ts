/** Alternatives for the try strip: which edits to compare. */

import type { BlendMode, Edit, Layer } from "@/model/composite";

/** Ready strengths to compare by eye. */
export const STRENGTHS: readonly number[] = [0.2, 0.4, 0.6, 0.8, 1];

/** Return the edit that gives the layer another blend mode. */
export function tryMode(layer: Layer, mode: BlendMode): Edit {
  return { kind: "blend_layer", layer_id: layer.id, mode, opacity: layer.opacity };
}

/** Return the edit that gives the layer another strength. */
export function tryStrength(layer: Layer, opacity: number): Edit {
  return { kind: "blend_layer", layer_id: layer.id, mode: layer.blend, opacity };
}
