/** What this person has set for this browser. */

import { create } from "zustand";

const KEY = "glyphaneme.plain-keys";

interface Settings {
  /** Whether keys without Control or its like do anything. */
  readonly plainKeys: boolean;
  setPlainKeys(on: boolean): void;
}

export const useSettings = create<Settings>((set) => ({
  plainKeys: readKept(),
  setPlainKeys: (plainKeys) => {
    keep(plainKeys);
    set({ plainKeys });
  },
}));

function readKept(): boolean {
  try {
    return localStorage.getItem(KEY) !== "off";
  } catch {
    return true;
  }
}

function keep(on: boolean): void {
  try {
    if (on) localStorage.removeItem(KEY);
    else localStorage.setItem(KEY, "off");
  } catch {
    // It holds for this window all the same.
  }
}
