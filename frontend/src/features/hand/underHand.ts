/** What of the picture lies under the hand, and whether it is moved there. */

import {
  type Composite,
  groupsAround,
  isLocked,
  type Layer,
  type PhotoLayer,
  type PlacedLayer,
} from "@/model/composite";
import { layersAt, liesOn, toSource } from "@/model/geometry";
import { onCanvas } from "@/model/nesting";
import type { Point, Size } from "@/model/points";
import { takenByClick } from "@/model/reaching";
import { useDesk } from "@/state/desk/desk";
import { facetFor } from "@/state/desk/selection";

interface Keys {
  readonly altKey: boolean;
}

/** Tell whether the hand moves a photo in its frame, and not with it. */
export function isCropping(layer: Layer | undefined): layer is PhotoLayer {
  const { facet, line } = useDesk.getState();
  return layer?.kind === "photo" && facetFor(layer, facet) === "place" && line === "crop";
}

/** Tell whether the hand works inside a layer, and does not move it. */
export function worksInside(layer: Layer): boolean {
  const facet = facetFor(layer, useDesk.getState().facet);
  return facet !== "place" && facet !== "lettering" && facet !== "wash" && facet !== "blend";
}

export function canBeTaken(composite: Composite, layer: PlacedLayer, at: Point): boolean {
  return layer.visible && !isLocked(composite, layer.id) && liesOn(onCanvas(composite, layer), at);
}

/** Return what a click takes: in the open group, or beside the open member, what lies there. */
export function layerUnder(
  composite: Composite,
  open: Layer | undefined,
  at: Point,
  keys: Keys,
): PlacedLayer | undefined {
  const groups = open ? [...groupsAround(composite, open.id)] : [];
  if (open?.kind === "group") groups.push(open);
  const group = groups.at(-1);
  const inside = groups.reduce((point, one) => toSource(one, point), at);
  return (
    (group && taking(group.layers, inside, group, keys)) ??
    taking(composite.layers, at, composite.canvas, keys)
  );
}

/** Return what a click takes of one pile; with Alt whatever lies frontmost, veils too. */
export function taking(
  layers: readonly Layer[],
  at: Point,
  sheet: Size,
  { altKey }: Keys,
): PlacedLayer | undefined {
  const found = layersAt(layers, at);
  return altKey ? found[0] : takenByClick(found, sheet);
}
