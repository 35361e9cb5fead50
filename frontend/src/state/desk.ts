/** What the desk shows and works on; nothing of it is an edit. */

import { create } from "zustand";
import { type Edit, isChanging, isPlaced, isToned, type Layer } from "@/model/composite";
import type { Point, Size } from "@/model/points";
import type { StageView } from "@/model/viewing";

export type Facet = "wash" | "place" | "cut" | "fade" | "blend" | "tone" | "shadow";

/** Return the facet that a layer shows: those of its kind alone. */
export function facetFor(layer: Layer, facet: Facet): Facet {
  if (facet === "cut" || facet === "fade" || facet === "blend") return facet;
  if (facet === "shadow" && !isChanging(layer)) return facet;
  if (layer.kind === "mending") return "cut";
  if (layer.kind === "toning" || (facet === "tone" && isToned(layer))) return "tone";
  return isPlaced(layer) ? "place" : "wash";
}

export type Backing =
  | { readonly kind: "lattice" }
  | { readonly kind: "color"; readonly color: string };

/** A stroke as it is being painted, on the canvas. */
export interface Trace {
  /** The same for as long as it goes on. */
  readonly stroke: object;
  readonly points: readonly Point[];
  /** How far from them it covers anything. */
  readonly reach: number;
  /** The edit that shows it. */
  readonly edit: Edit;
}

/** Hatched on the picture, or alone: white where it shows, only its edge, or a rim. */
export type MaskSeen = "hatched" | "mask" | "edge" | "rim";

interface DeskStore {
  readonly openLayer: string | null;
  /** Layers that are worked on as one, beside the open one or with it. */
  readonly chosen: readonly string[];
  readonly facet: Facet;
  /** The open line of the open facet: a part of a recipe by its id, a fade by its place. */
  readonly line: string | null;
  /** null: the whole canvas, fitted to the stage. */
  readonly view: StageView | null;
  readonly stage: Size;
  readonly backing: Backing;
  /** Lightness of the grey round the picture, 0..100. */
  readonly surround: number;
  /** An edit as it is being made: shown, not sent. */
  readonly live: Edit | null;
  /** What `live` paints, where it is a stroke. */
  readonly trace: Trace | null;
  /** An alternative under the pointer: shown, not sent. */
  readonly tried: Edit | null;
  readonly seeThrough: boolean;
  /** Whether the open layer is shown whole, without its mask. */
  readonly uncut: boolean;
  /** How the mask of the open layer is seen. */
  readonly maskSeen: MaskSeen;
  /** A state of the history that is looked at. */
  readonly lookedAt: string | null;
  readonly shelfOpen: boolean;
  /** Pictures that the shelf points out. */
  readonly marked: readonly string[];
  readonly sheetOpen: boolean;
  readonly actions: {
    open(layer: string | null, facet?: Facet): void;
    choose(layers: readonly string[]): void;
    openLine(line: string | null): void;
    setView(view: StageView | null): void;
    setStage(stage: Size): void;
    setBacking(backing: Backing): void;
    setSurround(surround: number): void;
    setLive(live: Edit | null): void;
    setTrace(trace: Trace): void;
    setTried(tried: Edit | null): void;
    setSeeThrough(on: boolean): void;
    setUncut(on: boolean): void;
    setMaskSeen(seen: MaskSeen): void;
    lookAt(revision: string | null): void;
    setShelf(open: boolean): void;
    /** Open the shelf and point pictures out. */
    mark(pictures: readonly string[]): void;
    setSheet(open: boolean): void;
    reset(): void;
  };
}

const FRESH = {
  openLayer: null,
  chosen: [],
  facet: "place",
  line: null,
  view: null,
  live: null,
  trace: null,
  tried: null,
  seeThrough: false,
  uncut: false,
  maskSeen: "hatched",
  lookedAt: null,
  shelfOpen: false,
  marked: [],
  sheetOpen: false,
} satisfies Partial<DeskStore>;

export const useDesk = create<DeskStore>((set) => ({
  ...FRESH,
  stage: { width: 0, height: 0 },
  backing: { kind: "lattice" },
  surround: 55,
  actions: {
    open: (openLayer, facet) =>
      set((desk) => ({
        openLayer,
        facet: facet ?? desk.facet,
        line: openLayer === desk.openLayer && !facet ? desk.line : null,
        tried: null,
        live: null,
        seeThrough: false,
        maskSeen: "hatched",
        sheetOpen: openLayer === null ? desk.sheetOpen : false,
      })),
    choose: (chosen) => set({ chosen }),
    openLine: (line) => set({ line, tried: null, live: null }),
    setView: (view) => set({ view }),
    setStage: (stage) => set({ stage }),
    setBacking: (backing) => set({ backing }),
    setSurround: (surround) => set({ surround }),
    setLive: (live) => set({ live, trace: null }),
    setTrace: (trace) => set({ live: trace.edit, trace }),
    setTried: (tried) => set({ tried }),
    setSeeThrough: (seeThrough) => set({ seeThrough }),
    setUncut: (uncut) => set({ uncut }),
    setMaskSeen: (maskSeen) => set({ maskSeen }),
    lookAt: (lookedAt) => set({ lookedAt }),
    setShelf: (shelfOpen) => set({ shelfOpen, marked: [] }),
    mark: (marked) => set({ shelfOpen: true, marked }),
    setSheet: (sheetOpen) =>
      set((desk) => ({ sheetOpen, openLayer: sheetOpen ? null : desk.openLayer })),
    reset: () => set(FRESH),
  },
}));
