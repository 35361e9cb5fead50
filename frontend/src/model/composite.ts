/** The composite as the page knows it: the service's own types, with every value there. */

import type { components } from "@generated/schema";

type Schemas = components["schemas"];

/** What the service answers: nothing may change, and what has a default is never left out. */
export type Answered<T> = T extends object ? { readonly [K in keyof T]-?: Answered<T[K]> } : T;

/** What the page asks for: a value may be left out, but each that is given is whole. */
type Asked<T> = T extends unknown ? { readonly [K in keyof T]: Answered<T[K]> } : never;

export type Placement = Answered<Schemas["Placement"]>;
export type BlendMode = Schemas["BlendMode"];
export type Stop = Answered<Schemas["Stop"]>;
export type Gradient = Answered<Schemas["Gradient"]>;
export type Canvas = Answered<Schemas["Canvas"]>;
export type Composite = Answered<Schemas["Composite"]>;

export type PhotoLayer = Answered<Schemas["PhotoLayer"]>;
export type ColorLayer = Answered<Schemas["ColorLayer"]>;
export type GradientLayer = Answered<Schemas["GradientLayer"]>;
export type GroupLayer = Answered<Schemas["GroupLayer"]>;
export type ToningLayer = Answered<Schemas["ToningLayer"]>;
export type MendingLayer = Answered<Schemas["MendingLayer"]>;
export type WordsLayer = Answered<Schemas["WordsLayer"]>;

export type Fade = Answered<Schemas["Fade"]>;
export type Mask = Answered<Schemas["Mask"]>;
export type MaskPart = Mask["parts"][number];

export type Effect = PhotoLayer["effects"][number];
export type Tone = ToningLayer["tones"][number];

export type Layer = Composite["layers"][number];
/** Placed, and no group: it may be set into corners and bent. */
export type FlatLayer = PhotoLayer | WordsLayer;
export type PlacedLayer = FlatLayer | GroupLayer;
export type TonedLayer = PlacedLayer | ToningLayer;
export type MendedLayer = PhotoLayer | MendingLayer;
export type ChangingLayer = ToningLayer | MendingLayer;
export type WashLayer = ColorLayer | GradientLayer;

/** A project as it stands, with the sentences that say so. */
export type ProjectState = Answered<Schemas["ProjectState"]>;

export type Edit = Asked<Schemas["NewEdit"]["edit"]>;

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

/** Return what a layer lies on: its group's own sheet, or the canvas. */
export function sheetOf(composite: Composite, id: string): GroupLayer | Canvas {
  return groupsAround(composite, id).at(-1) ?? composite.canvas;
}

/** Return all layers that lie where this one does, from back to front. */
export function siblingsOf(composite: Composite, id: string): readonly Layer[] {
  return groupsAround(composite, id).at(-1)?.layers ?? composite.layers;
}

export function membersOf(layer: Layer): readonly Layer[] {
  return layer.kind === "group" ? layer.layers : [];
}

/** Return all layers, those in groups too, from back to front. */
export function allLayers(layers: readonly Layer[]): readonly Layer[] {
  return layers.flatMap((layer) => [...allLayers(membersOf(layer)), layer]);
}

/** Count layers, those in groups too; a group itself is none. */
export function countLayers(layers: readonly Layer[]): number {
  return layers.reduce(
    (sum, layer) => sum + (layer.kind === "group" ? countLayers(layer.layers) : 1),
    0,
  );
}

export function isPlaced(layer: Layer | undefined): layer is PlacedLayer {
  return isFlat(layer) || layer?.kind === "group";
}

/** Tell whether a layer may be set into four corners, and bent. */
export function isFlat(layer: Layer | undefined): layer is FlatLayer {
  return layer?.kind === "photo" || layer?.kind === "words";
}

/** Tell whether a layer has tones: colours and gradients say their colours themselves. */
export function isToned(layer: Layer | undefined): layer is TonedLayer {
  return layer?.kind === "toning" || isPlaced(layer);
}

/** Tell whether places can be mended by a layer: its own photo's, or those beneath it. */
export function isMended(layer: Layer | undefined): layer is MendedLayer {
  return layer?.kind === "photo" || layer?.kind === "mending";
}

/** Tell whether a layer only changes what lies beneath, and has no pixels of its own. */
export function isChanging(layer: Layer): layer is ChangingLayer {
  return layer.kind === "toning" || layer.kind === "mending";
}

/** Tell whether a layer, or a group around it, is locked. */
export function isLocked(composite: Composite, id: string): boolean {
  return pathTo(composite.layers, id).some((layer) => layer.locked);
}
