/** The grips by which a whole layer is taken: its corners, and the stem that turns it. */

export type LayerGrip = 0 | 1 | 2 | 3 | "turn";

const LAYER_GRIPS: ReadonlySet<string> = new Set(["0", "1", "2", "3", "turn"]);

export function isLayerGrip(grip: string): boolean {
  return LAYER_GRIPS.has(grip);
}

/** Return a grip of a whole layer by its name: a corner by its number. */
export function layerGrip(grip: string): LayerGrip {
  return numbered(grip) as LayerGrip;
}

/** Return a grip by its name, or by its number where it has one. */
export function numbered(grip: string): string | number {
  return /^\d$/.test(grip) ? Number(grip) : grip;
}
