/** What is worked on: a layer, a facet of it, a line of that; and what is open beside it. */

import { isChanging, isPlaced, isToned, type Layer } from "@/model/composite";
import { NOTHING_TRIED, type Trying } from "@/state/desk/trying";
import type { Change } from "@/state/desk/types";
import type { Viewing } from "@/state/desk/viewing";

export type Facet = "lettering" | "wash" | "place" | "cut" | "fade" | "blend" | "tone" | "shadow";

/** What is open first of each kind of layer. */
const HOME: Readonly<Record<Layer["kind"], Facet>> = {
  photo: "place",
  group: "place",
  words: "lettering",
  color: "wash",
  gradient: "wash",
  toning: "tone",
  mending: "cut",
};

/** Which layers have a facet. */
const HAS: Readonly<Record<Facet, (layer: Layer) => boolean>> = {
  lettering: ({ kind }) => kind === "words",
  wash: ({ kind }) => kind === "color" || kind === "gradient",
  place: isPlaced,
  cut: () => true,
  fade: () => true,
  blend: () => true,
  tone: isToned,
  shadow: (layer) => !isChanging(layer),
};

/** Return the facet that a layer shows: those of its kind alone. */
export function facetFor(layer: Layer, facet: Facet): Facet {
  return HAS[facet](layer) ? facet : HOME[layer.kind];
}

/** Return the facet that a layer opens with: words with theirs, others as before. */
export function facetAtOpening(layer: Layer): Facet | undefined {
  return layer.kind === "words" ? "lettering" : undefined;
}

export interface Selection {
  readonly openLayer: string | null;
  /** Layers that are worked on as one, beside the open one or with it. */
  readonly chosen: readonly string[];
  readonly facet: Facet;
  /** The open line of the open facet: a part of a recipe by its id, a fade by its place. */
  readonly line: string | null;
  readonly sheetOpen: boolean;
  readonly shelfOpen: boolean;
  /** Pictures that the shelf points out. */
  readonly marked: readonly string[];
}

export const NOTHING_OPEN: Selection = {
  openLayer: null,
  chosen: [],
  facet: "place",
  line: null,
  sheetOpen: false,
  shelfOpen: false,
  marked: [],
};

/** Make the actions; what was tried on one layer or line is not tried on the next. */
export const selectionActions = (change: Change<Selection & Trying & Viewing>) => ({
  open: (openLayer: string | null, facet?: Facet) =>
    change((desk) => ({
      openLayer,
      facet: facet ?? desk.facet,
      line: openLayer === desk.openLayer && !facet ? desk.line : null,
      sheetOpen: openLayer === null ? desk.sheetOpen : false,
      seeThrough: false,
      maskSeen: "hatched",
      ...NOTHING_TRIED,
    })),
  choose: (chosen: readonly string[]) => change({ chosen }),
  openLine: (line: string | null) => change({ line, ...NOTHING_TRIED }),
  setSheet: (sheetOpen: boolean) =>
    change((desk) => ({ sheetOpen, openLayer: sheetOpen ? null : desk.openLayer })),
  setShelf: (shelfOpen: boolean) => change({ shelfOpen, marked: [] }),
  /** Open the shelf and point pictures out. */
  mark: (marked: readonly string[]) => change({ shelfOpen: true, marked }),
});
