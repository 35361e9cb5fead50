/** Files on their way in: how far each is, and why one was refused. */

import { create } from "zustand";

export interface Arrival {
  readonly id: string;
  readonly name: string;
  readonly stage: "waiting" | "sending" | "reading" | "refused";
  /** 0..1 of sending and reading together. */
  readonly progress: number;
  readonly reason?: string;
  readonly jobId?: string;
  stop(): void;
  /** Where it was refused: try once more. */
  again?(): void;
}

interface ArrivalStore {
  readonly arrivals: readonly Arrival[];
  /** How many came in since nothing was on its way. */
  readonly come: number;
  add(arrival: Arrival): void;
  change(id: string, changes: Partial<Arrival>): void;
  remove(id: string): void;
}

export const useArrivals = create<ArrivalStore>((set) => ({
  arrivals: [],
  come: 0,
  add: (arrival) =>
    set(({ arrivals, come }) => ({
      arrivals: [...arrivals, arrival],
      come: onTheirWay(arrivals).length === 0 ? 0 : come,
    })),
  change: (id, changes) =>
    set(({ arrivals }) => ({
      arrivals: arrivals.map((one) => (one.id === id ? { ...one, ...changes } : one)),
    })),
  remove: (id) =>
    set(({ arrivals, come }) => ({
      arrivals: arrivals.filter((one) => one.id !== id),
      come: arrivals.some((one) => one.id === id) ? come + 1 : come,
    })),
}));

/** Return those that are neither in nor refused. */
export function onTheirWay(arrivals: readonly Arrival[]): readonly Arrival[] {
  return arrivals.filter(({ stage }) => stage !== "refused");
}
