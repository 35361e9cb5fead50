/** What a press on the stage begins: the first of a list that it means something to. */

import { settingIn } from "@/features/hand/blank";
import { choosing } from "@/features/hand/choosing";
import type { Begin, Drag, Press } from "@/features/hand/drag";
import { drawing, drawnNow } from "@/features/hand/drawing";
import { gripping } from "@/features/hand/gripping";
import { mending, mendingNow } from "@/features/hand/mending";
import { paintedNow, painting } from "@/features/hand/painting";
import { panning } from "@/features/hand/panning";
import { pinning } from "@/features/hand/pinning";
import { roughing, roughNow } from "@/features/hand/roughing";
import { pullingTheSheet } from "@/features/hand/sheetDrags";
import { pointing, spotNow } from "@/features/hand/spots";
import { shiftingInside, takingLayer } from "@/features/hand/takingLayers";
import { blankNow } from "@/work/blank";

const BEGINNINGS: readonly Begin[] = [
  panning,
  pinning,
  // What the next press was asked for.
  settingIn,
  pointing,
  pullingTheSheet,
  choosing,
  // What is in the hand.
  painting,
  roughing,
  mending,
  drawing,
  // What the press takes.
  gripping,
  shiftingInside,
  takingLayer,
];

/** Return the drag that a press begins; null where it begins none. */
export function begun(press: Press): Drag | null {
  for (const begin of BEGINNINGS) {
    const drag = begin(press);
    if (drag !== undefined) return drag;
  }
  return null;
}

/** Tell whether a brush of any kind is in the hand. */
export function brushNow(): boolean {
  return paintedNow() !== null || roughNow() || mendingNow();
}

/** Tell whether a press does something other than to take layers. */
export function worksNow(): boolean {
  return brushNow() || drawnNow() !== null || blankNow() || spotNow();
}
