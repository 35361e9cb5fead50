/** Edits that are shown and not sent: as a hand makes them, or as a pointer tries them. */

import type { Edit } from "@/model/composite";
import type { Point } from "@/model/points";
import type { Bounds } from "@/model/snapping";
import type { Change } from "@/state/desk/types";

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

export interface Trying {
  /** An edit as it is being made. */
  readonly live: Edit | null;
  /** What `live` paints, where it is a stroke. */
  readonly trace: Trace | null;
  /** An alternative under the pointer. */
  readonly tried: Edit | null;
  /** What of the canvas the alternatives show, while one points at them. */
  readonly tilesShow: Bounds | null;
}

export const NOTHING_TRIED: Trying = { live: null, trace: null, tried: null, tilesShow: null };

export const tryingActions = (change: Change<Trying>) => ({
  /** Show an edit, and what it paints where it is a stroke; or nothing more. */
  setLive: (live: Edit | null, trace: Trace | null = null) => change({ live, trace }),
  setTried: (tried: Edit | null) => change({ tried }),
  setTilesShow: (tilesShow: Bounds | null) => change({ tilesShow }),
});
