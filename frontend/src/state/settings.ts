/** What this person has set for this browser. */

import { create } from "zustand";
import { keep, kept } from "@/browser/storage";
import type { Unit } from "@/model/sizes";

const KEYS = "glyphaneme.plain-keys";
const UNIT = "glyphaneme.unit";
const WIDTH = "glyphaneme.pile-width";
const UNITS: readonly Unit[] = ["px", "cm", "in"];

/** How narrow and how wide the pile can be dragged, in CSS pixels. */
export const PILE_WIDTHS = { least: 280, most: 560 };

interface Settings {
  /** Whether keys without Control or its like do anything. */
  readonly plainKeys: boolean;
  /** In what places and sizes on the sheet are told. */
  readonly unit: Unit;
  /** How wide the pile was dragged, in CSS pixels; null until it is. */
  readonly pileWidth: number | null;
  setPlainKeys(on: boolean): void;
  setUnit(unit: Unit): void;
  setPileWidth(width: number | null): void;
}

export const useSettings = create<Settings>((set) => ({
  plainKeys: kept(KEYS) !== "off",
  unit: UNITS.find((unit) => unit === kept(UNIT)) ?? "px",
  pileWidth: keptWidth(),
  setPlainKeys: (plainKeys) => {
    keep(KEYS, plainKeys ? null : "off");
    set({ plainKeys });
  },
  setUnit: (unit) => {
    keep(UNIT, unit === "px" ? null : unit);
    set({ unit });
  },
  setPileWidth: (width) => {
    const pileWidth = width === null ? null : withinWidths(width);
    keep(WIDTH, pileWidth === null ? null : String(pileWidth));
    set({ pileWidth });
  },
}));

/** Return what was kept, unless somebody wrote something else there. */
function keptWidth(): number | null {
  const width = Number(kept(WIDTH) ?? Number.NaN);
  return Number.isFinite(width) ? withinWidths(width) : null;
}

function withinWidths(width: number): number {
  return Math.max(PILE_WIDTHS.least, Math.min(Math.round(width), PILE_WIDTHS.most));
}
