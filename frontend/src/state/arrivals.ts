/** Files on their way in: how far each is, and why one was refused. */

import { create } from "zustand";

export interface Arrival {
  readonly id: string;
  readonly name: string;
  readonly stage: "sending" | "reading" | "refused";
  /** 0..1 of sending and reading together. */
  readonly progress: number;
  readonly reason?: string;
  readonly jobId?: string;
  stop(): void;
}

interface ArrivalStore {
  readonly arrivals: readonly Arrival[];
  add(arrival: Arrival): void;
  change(id: string, changes: Partial<Arrival>): void;
  remove(id: string): void;
}

export const useArrivals = create<ArrivalStore>((set) => ({
  arrivals: [],
  add: (arrival) => set(({ arrivals }) => ({ arrivals: [...arrivals, arrival] })),
  change: (id, changes) =>
    set(({ arrivals }) => ({
      arrivals: arrivals.map((one) => (one.id === id ? { ...one, ...changes } : one)),
    })),
  remove: (id) => set(({ arrivals }) => ({ arrivals: arrivals.filter((one) => one.id !== id) })),
}));
