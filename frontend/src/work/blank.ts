/** Looking for a blank place beneath the open photo, which a rough stroke goes over. */

import { useShaping } from "@/state/shaping";

/** How wide that stroke is, in pixels of the screen. */
export const BLANK_BRUSH = 26;

/** Look for a blank place; as long as one is looked for, the open photo is left out. */
export function lookForBlank(): void {
  useShaping.getState().setBlank([]);
}

/** Look for none any more. */
export function leaveBlank(): void {
  useShaping.getState().setBlank(null);
}

/** Forget a stroke that was broken off. */
export function breakOffBlank(): void {
  if (blankNow()) useShaping.getState().setBlank([]);
}

/** Tell whether a press on the stage goes over a blank place. */
export function blankNow(): boolean {
  return useShaping.getState().blank !== null;
}
