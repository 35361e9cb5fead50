/** Cutting out: the rough brush in the hand, what is being found, and what was. */

import { create } from "zustand";
import type { Edit } from "@/model/composite";
import type { Found, FoundMatte, Hints } from "@/model/mattes";
import type { Point } from "@/model/points";

/** What a rough press does: keep, drop, or bound where the subject is looked for. */
export type RoughDoes = "keep" | "drop" | "ring" | "frame";

/** A backdrop that is being found. */
export interface Finding {
  readonly progress: number;
  /** The rough answer so far: shown, not sent. */
  readonly shown: Edit | null;
  /** What was said, drawn until it counts. */
  readonly hints: Hints;
  stop(): void;
}

interface CuttingStore {
  readonly does: RoughDoes;
  /** Of the rough brush, in pixels of the canvas. */
  readonly size: number;
  /** What is being drawn, on the canvas. */
  readonly trace: readonly Point[];
  /** What is being found, by layer. */
  readonly findings: Readonly<Record<string, Finding>>;
  /** By picture and by what was asked for. */
  readonly found: Readonly<Record<string, Found>>;
  set(changes: Partial<Pick<CuttingStore, "does" | "size" | "trace">>): void;
  setFinding(layer: string, finding: Finding | null): void;
  keepFound(picture: string, key: string, matte: FoundMatte): void;
}

const FIRST_SIZE = 60;
const MOST_FOUND = 60;
const MOST_PICTURES = 40;

/** Return a record without its oldest entries beyond so many: the service knows them too. */
function newestOf<T>(record: Readonly<Record<string, T>>, most: number): Record<string, T> {
  return Object.fromEntries(Object.entries(record).slice(-most));
}

export const useCutting = create<CuttingStore>((set) => ({
  does: "keep",
  size: FIRST_SIZE,
  trace: [],
  findings: {},
  found: {},
  set: (changes) => set(changes),
  setFinding: (layer, finding) =>
    set(({ findings: { [layer]: _, ...others } }) => ({
      findings: finding ? { ...others, [layer]: finding } : others,
    })),
  keepFound: (picture, key, matte) =>
    set(({ found }) => {
      const { [picture]: before, ...others } = found;
      const ofPicture = newestOf({ ...before, [key]: matte }, MOST_FOUND);
      return { found: newestOf({ ...others, [picture]: ofPicture }, MOST_PICTURES) };
    }),
}));

/** Stop all that is being found. */
export function stopFinding(): void {
  for (const { stop } of Object.values(useCutting.getState().findings)) stop();
}

/** Let the rough brush do the other of the two. */
export function swapRough(): void {
  const { does, set } = useCutting.getState();
  set({ does: does === "keep" ? "drop" : "keep" });
}
