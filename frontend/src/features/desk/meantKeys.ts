/** Which keys are meant for the desk, and not for what has the focus. */

import { isTyping } from "@/features/hand/typingTarget";
import { useSettings } from "@/state/settings";

const APART = "[role=dialog],[role=menu]";
const WORK = "[data-stage],[data-pile]";
const LISTS = "[role=listbox],[role=grid]";
/** Where a letter would choose what begins with it, unless it means something to the desk. */
const AHEAD = "[aria-haspopup=listbox],[data-tries]";

/** Tell whether a key is pressed together with Control or its like. */
export function isChord(event: KeyboardEvent): boolean {
  return event.ctrlKey || event.metaKey || event.altKey;
}

export function isMeant(event: KeyboardEvent): boolean {
  if (isTyping(event.target) || isApart(event.target)) return false;
  return isChord(event) || (useSettings.getState().plainKeys && isAtWork(event));
}

/** Tell whether a key must be heard before what has the focus takes it for a name's beginning. */
export function comesFirst({ key, target }: KeyboardEvent): boolean {
  return isCharacter(key) && target instanceof Element && target.closest(AHEAD) !== null;
}

/** Tell whether plain keys mean the work: characters do so beside it too, but for lists. */
function isAtWork({ key, target }: KeyboardEvent): boolean {
  if (!(target instanceof Element) || target === document.body) return true;
  if (target.closest(WORK)) return true;
  return isCharacter(key) && (!target.closest(LISTS) || target.closest("[data-tries]") !== null);
}

function isCharacter(key: string): boolean {
  return key.length === 1 && key !== " ";
}

function isApart(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest(APART) !== null;
}
