/** Where a layer comes to lie when it is dropped on another one of the pile. */

import {
  type Composite,
  groupsAround,
  isLocked,
  layerById,
  pathTo,
  siblingsOf,
} from "@/model/composite";

/** In front of the other one, behind it, or in it, in front of all that is there. */
export type Beside = "over" | "under" | "inside";

export interface PilePlace {
  /** The group, or null for the whole pile. */
  readonly into: string | null;
  /** Counted from the back, once the layer has been taken out of where it lies. */
  readonly index: number;
}

/**
 * Return the place that a drop means; null where the layer lies there already, or may not
 * leave its group or come to lie there.
 */
export function dropPlace(
  composite: Composite,
  moved: string,
  onto: string,
  beside: Beside,
): PilePlace | null {
  const target = layerById(composite, onto);
  if (!target || pathTo(composite.layers, onto).some((one) => one.id === moved)) return null;
  const place =
    beside === "inside"
      ? target.kind === "group" && {
          into: onto,
          index: target.layers.filter((one) => one.id !== moved).length,
        }
      : besideLayer(composite, moved, onto, beside);
  return place && isOpenTo(composite, moved, place) ? place : null;
}

/** Return on which side the layer takes the other one's place, whichever way it comes. */
export function besideByKeys(composite: Composite, moved: string, onto: string): "over" | "under" {
  const ids = siblingsOf(composite, onto).map((one) => one.id);
  return ids.indexOf(moved) > ids.indexOf(onto) ? "under" : "over";
}

function besideLayer(
  composite: Composite,
  moved: string,
  onto: string,
  beside: "over" | "under",
): PilePlace {
  const others = siblingsOf(composite, onto).filter((one) => one.id !== moved);
  const index = others.findIndex((one) => one.id === onto);
  const into = groupsAround(composite, onto).at(-1)?.id ?? null;
  return { into, index: beside === "over" ? index + 1 : index };
}

/** Tell whether the layer may go there: it is another place, and no group on the way is locked. */
function isOpenTo(composite: Composite, moved: string, { into, index }: PilePlace): boolean {
  const home = groupsAround(composite, moved).at(-1)?.id ?? null;
  if (home === into) {
    return siblingsOf(composite, moved).findIndex((one) => one.id === moved) !== index;
  }
  return [home, into].every((group) => group === null || !isLocked(composite, group));
}
