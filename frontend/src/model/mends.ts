/** Mended places of a photo or a pile: which is open, and new ones by hand. */

import { MEND } from "@generated/limits";
import { v4 as newId } from "uuid";
import {
  type Composite,
  type Edit,
  isMended,
  type Layer,
  type MendedLayer,
} from "@/model/composite";
import { type Lying, lyingOf } from "@/model/lying";
import { owned, ownSize, pictureLying } from "@/model/mattes";
import type { Point } from "@/model/points";

export type Mend = MendedLayer["mends"][number];

/** The line that is open while places are mended, and of one that is there. */
export const MENDING = "mend";
const ONE = "mend-";

/** Tell whether a press on the stage mends. */
export function isMending(layer: Layer | undefined, line: string | null): boolean {
  return isMended(layer) && (line === MENDING || (line?.startsWith(ONE) ?? false));
}

export function mendLine({ id }: Mend): string {
  return ONE + id;
}

/** Return the place of the mend that is open, if one is. */
export function openMend(layer: Layer | undefined, line: string | null): number | null {
  const mends = isMended(layer) ? layer.mends : [];
  const place = mends.findIndex((one) => mendLine(one) === line);
  return place < 0 ? null : place;
}

/** Return how positions of mended places lie: in the photo, or in what the layer lies in. */
export function mendsLying(composite: Composite, layer: MendedLayer): Lying {
  return layer.kind === "photo" ? pictureLying(composite, layer) : lyingOf(composite, layer, false);
}

/** The service fills places a little larger than that in one piece. */
const MOST_AREA = 10_000;
const THINNEST = 4;

/** Return the edits that mend what was gone over: a long way in several pieces. */
export function mendEdits(
  layer: MendedLayer,
  lying: Lying,
  way: readonly Point[],
  size: number,
): Edit[] {
  const first = way[0];
  if (!first) return [];
  const wide = Math.min(
    Math.max(ownSize(lying, first, size), MEND.size.minimum),
    MEND.size.maximum,
  );
  const most = MOST_AREA / Math.max(wide, THINNEST) - wide;
  return piecesOf(owned(lying, way), most).map((points) => ({
    kind: "mend_photo",
    layer_id: layer.id,
    mend: { id: newId(), points, size: wide, works: true },
  }));
}

type Spot = [number, number];

/** Cut a way into pieces of so many pixels; each begins where the one before ends. */
export function piecesOf(way: readonly Spot[], most: number): Spot[][] {
  const pieces: Spot[][] = [];
  let piece: Spot[] = way.slice(0, 1);
  let length = 0;
  for (const [from, to] of steps(way, most)) {
    length += Math.hypot(to[0] - from[0], to[1] - from[1]);
    if (piece.length > 1 && (length > most || piece.length >= MEND.points.maxItems)) {
      pieces.push(piece);
      piece = [from];
      length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    }
    piece.push(to);
  }
  return [...pieces, piece];
}

/** Return the steps of a way, none of them longer than that. */
function steps(way: readonly Spot[], most: number): [Spot, Spot][] {
  return way.slice(1).flatMap((to, place) => {
    const from = way[place] ?? to;
    const [x, y] = [to[0] - from[0], to[1] - from[1]];
    const count = Math.max(Math.ceil(Math.hypot(x, y) / most), 1);
    const at = (step: number): Spot => [from[0] + (x * step) / count, from[1] + (y * step) / count];
    return Array.from({ length: count }, (_, step): [Spot, Spot] => [at(step), at(step + 1)]);
  });
}
