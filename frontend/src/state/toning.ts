/** What tones are set by: how often levels occur, which channel, what is pointed at. */

import { create } from "zustand";

export type Channel = "all" | "red" | "green" | "blue";
/** What a spot of the picture is said to be. */
export type SpotRole = "black" | "grey" | "white";

/** Heights of 256 levels, 0..255, of all components, red, green and blue. */
export type Counts = Readonly<Record<Channel, Uint8Array>>;

export interface ToneCounts {
  /** In what the open tone finds. */
  readonly own: Counts;
  readonly behind: Counts;
}

interface ToningStore {
  readonly counts: ToneCounts | null;
  readonly channel: Channel;
  /** What the next press on the picture points at. */
  readonly role: SpotRole | null;
  setCounts(counts: ToneCounts | null): void;
  setChannel(channel: Channel): void;
  setRole(role: SpotRole | null): void;
}

export const useToning = create<ToningStore>((set) => ({
  counts: null,
  channel: "all",
  role: null,
  setCounts: (counts) => set({ counts }),
  setChannel: (channel) => set({ channel }),
  setRole: (role) => set({ role }),
}));

export const CHANNELS: readonly Channel[] = ["all", "red", "green", "blue"];
const LEVELS = 256;

/** Read what the service counted: own and behind, each of all and of each channel. */
export function readCounts(text: string): ToneCounts {
  const bytes = Uint8Array.from(atob(text), (one) => one.charCodeAt(0));
  const at = (row: number) => bytes.subarray(row * LEVELS, (row + 1) * LEVELS);
  const four = (first: number): Counts => ({
    all: at(first),
    red: at(first + 1),
    green: at(first + 2),
    blue: at(first + 3),
  });
  return { own: four(0), behind: four(CHANNELS.length) };
}
