/** Where positions in a layer's own pixels, or in its mask, lie on the canvas. */

import { type Composite, groupsAround, isPlaced, type Layer, type Mask } from "@/model/composite";
import { toCanvas, toSource } from "@/model/geometry";
import { onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";

/** Maps between a layer's, a fade's or a mask's own positions and the canvas. */
export interface Lying {
  toCanvas(own: Point): Point;
  fromCanvas(at: Point): Point;
}

/** Return how positions lie that move with a layer, or else with what that lies in. */
export function lyingOf(composite: Composite, layer: Layer, linked: boolean): Lying {
  if (linked && isPlaced(layer)) {
    const lifted = onCanvas(composite, layer);
    return {
      toCanvas: (own) => toCanvas(lifted, own),
      fromCanvas: (at) => toSource(lifted, at),
    };
  }
  const groups = groupsAround(composite, layer.id);
  return {
    toCanvas: (own) => groups.reduceRight((at, group) => toCanvas(group, at), own),
    fromCanvas: (at) => groups.reduce((own, group) => toSource(group, own), at),
  };
}

/** Return how a mask's own positions lie. */
export function maskLying(composite: Composite, layer: Layer, mask: Mask): Lying {
  const base = lyingOf(composite, layer, mask.linked);
  const [a, b, c, d, e, f] = mask.to_mask;
  // A map that flattens the plane has no way back: a hair keeps it from dividing by 0.
  const area = a * e - b * d || 1e-9;
  return {
    fromCanvas: (at) => {
      const { x, y } = base.fromCanvas(at);
      return { x: a * x + b * y + c, y: d * x + e * y + f };
    },
    toCanvas: ({ x, y }) =>
      base.toCanvas({
        x: (e * (x - c) - b * (y - f)) / area,
        y: (a * (y - f) - d * (x - c)) / area,
      }),
  };
}
