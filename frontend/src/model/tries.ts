/** Alternatives for the try strip: which edits to compare. */

import type { BlendMode, Canvas, ColorLayer, Edit, GradientLayer, Layer } from "@/model/composite";
import { runningAcross, runningOutwards } from "@/model/gradients";

/** One alternative: what it is called, and the edit that takes it. */
export interface Try {
  readonly title: string;
  /** What tells it from others with the same title. */
  readonly id?: string;
  readonly edit: Edit;
  readonly isChosen: boolean;
}

export interface TryGroup {
  readonly title: string;
  readonly tries: readonly Try[];
}

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

/** Return the edit that gives a colour layer another colour. */
export function tryColor(layer: ColorLayer, color: string): Edit {
  return { kind: "tint_layer", layer_id: layer.id, color };
}

const DIRECTIONS = [
  ["Downwards", 90],
  ["Upwards", -90],
  ["To the right", 0],
  ["To the left", 180],
  ["To the lower right", 45],
  ["To the upper left", -135],
] as const;

/** Return a gradient layer's ways to run, across the whole canvas. */
export function gradientTries(layer: GradientLayer, canvas: Canvas): TryGroup[] {
  const take = (title: string, gradient: GradientLayer["gradient"]): Try => ({
    title,
    edit: { kind: "grade_layer", layer_id: layer.id, gradient },
    isChosen: JSON.stringify(gradient) === JSON.stringify(layer.gradient),
  });
  const running = DIRECTIONS.map(([title, angle]) =>
    take(title, runningAcross(layer.gradient, canvas, angle)),
  );
  const outwards = take("From the middle", runningOutwards(layer.gradient, canvas));
  return [
    { title: "From side to side", tries: running },
    { title: "Round", tries: [outwards] },
  ];
}

/** Return colours for a colour layer: from the picture, and the plain ones. */
export function colorTries(layer: ColorLayer, offered: readonly string[]): TryGroup[] {
  const take = (title: string, color: string): Try => ({
    title,
    edit: tryColor(layer, color),
    isChosen: layer.color === color,
  });
  return [
    { title: "From the picture", tries: offered.map((color) => take(color, color)) },
    {
      title: "Plain",
      tries: [take("White", "#ffffff"), take("Mid-grey", "#808080"), take("Black", "#000000")],
    },
  ];
}
