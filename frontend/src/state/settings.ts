/** What this person has set for this browser. */

import { create } from "zustand";
import { keep, kept } from "@/browser/storage";
import type { Unit } from "@/model/sizes";

const KEYS = "glyphaneme.plain-keys";
const UNIT = "glyphaneme.unit";
const WIDTH = "glyphaneme.pile-width";
const TILES = "glyphaneme.tile-height";
const UNITS: readonly Unit[] = ["px", "cm", "in"];

interface Bounds {
  readonly least: number;
  readonly most: number;
}

/** How narrow and how wide the pile can be dragged, in CSS pixels. */
export const PILE_WIDTHS: Bounds = { least: 280, most: 560 };
/** How low and how high tiles of the try strip can be dragged, in CSS pixels. */
export const TILE_HEIGHTS: Bounds = { least: 64, most: 240 };

interface Settings {
  /** Whether keys without Control or its like do anything. */
  readonly plainKeys: boolean;
  /** In what places and sizes on the sheet are told. */
  readonly unit: Unit;
  /** How wide the pile was dragged, in CSS pixels; null until it is. */
  readonly pileWidth: number | null;
  /** How high tiles to try were dragged, in CSS pixels; null until they are. */
  readonly tileHeight: number | null;
  setPlainKeys(on: boolean): void;
  setUnit(unit: Unit): void;
  setPileWidth(width: number | null): void;
  setTileHeight(height: number | null): void;
}

export const useSettings = create<Settings>((set) => ({
  plainKeys: kept(KEYS) !== "off",
  unit: UNITS.find((unit) => unit === kept(UNIT)) ?? "px",
  pileWidth: keptSize(WIDTH, PILE_WIDTHS),
  tileHeight: keptSize(TILES, TILE_HEIGHTS),
  setPlainKeys: (plainKeys) => {
    keep(KEYS, plainKeys ? null : "off");
    set({ plainKeys });
  },
  setUnit: (unit) => {
    keep(UNIT, unit === "px" ? null : unit);
    set({ unit });
  },
  setPileWidth: (width) => set({ pileWidth: keepSize(WIDTH, width, PILE_WIDTHS) }),
  setTileHeight: (height) => set({ tileHeight: keepSize(TILES, height, TILE_HEIGHTS) }),
}));

/** Return the size that was kept, unless somebody wrote something else there. */
function keptSize(name: string, bounds: Bounds): number | null {
  const size = Number(kept(name) ?? Number.NaN);
  return Number.isFinite(size) ? within(size, bounds) : null;
}

/** Keep a size, and return it as it was kept. */
function keepSize(name: string, size: number | null, bounds: Bounds): number | null {
  const sized = size === null ? null : within(size, bounds);
  keep(name, sized === null ? null : String(sized));
  return sized;
}

function within(size: number, { least, most }: Bounds): number {
  return Math.max(least, Math.min(Math.round(size), most));
}
