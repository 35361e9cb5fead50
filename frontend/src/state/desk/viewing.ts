/** How the picture is looked at. */

import type { Size } from "@/model/points";
import type { StageView } from "@/model/viewing";
import type { Change } from "@/state/desk/types";

export type Backing =
  | { readonly kind: "lattice" }
  | { readonly kind: "color"; readonly color: string };

/** Hatched on the picture, or alone: white where it shows, only its edge, or a rim. */
export type MaskSeen = "hatched" | "mask" | "edge" | "rim";

export interface Viewing {
  /** null: the whole canvas, fitted to the stage. */
  readonly view: StageView | null;
  readonly seeThrough: boolean;
  /** Whether the open layer is shown whole, without its mask. */
  readonly uncut: boolean;
  /** How the mask of the open layer is seen. */
  readonly maskSeen: MaskSeen;
  /** A state of the history that is looked at. */
  readonly lookedAt: string | null;
}

/** What stays as it is from one picture to the next. */
export interface Surroundings {
  readonly stage: Size;
  readonly backing: Backing;
  /** Lightness of the grey round the picture, 0..100. */
  readonly surround: number;
}

export const SEEN_WHOLE: Viewing = {
  view: null,
  seeThrough: false,
  uncut: false,
  maskSeen: "hatched",
  lookedAt: null,
};

export const SURROUNDINGS: Surroundings = {
  stage: { width: 0, height: 0 },
  backing: { kind: "lattice" },
  surround: 55,
};

export const viewingActions = (change: Change<Viewing & Surroundings>) => ({
  setView: (view: StageView | null) => change({ view }),
  setStage: (stage: Size) => change({ stage }),
  setBacking: (backing: Backing) => change({ backing }),
  setSurround: (surround: number) => change({ surround }),
  setSeeThrough: (seeThrough: boolean) => change({ seeThrough }),
  setUncut: (uncut: boolean) => change({ uncut }),
  setMaskSeen: (maskSeen: MaskSeen) => change({ maskSeen }),
  lookAt: (lookedAt: string | null) => change({ lookedAt }),
});
