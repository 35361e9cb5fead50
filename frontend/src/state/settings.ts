/** What this person has set for this browser. */

import { create } from "zustand";
import { keep, kept } from "@/browser/storage";
import type { Unit } from "@/model/sizes";

const KEYS = "glyphaneme.plain-keys";
const UNIT = "glyphaneme.unit";
const UNITS: readonly Unit[] = ["px", "cm", "in"];

interface Settings {
  /** Whether keys without Control or its like do anything. */
  readonly plainKeys: boolean;
  /** In what places and sizes on the sheet are told. */
  readonly unit: Unit;
  setPlainKeys(on: boolean): void;
  setUnit(unit: Unit): void;
}

export const useSettings = create<Settings>((set) => ({
  plainKeys: kept(KEYS) !== "off",
  unit: UNITS.find((unit) => unit === kept(UNIT)) ?? "px",
  setPlainKeys: (plainKeys) => {
    keep(KEYS, plainKeys ? null : "off");
    set({ plainKeys });
  },
  setUnit: (unit) => {
    keep(UNIT, unit === "px" ? null : unit);
    set({ unit });
  },
}));
