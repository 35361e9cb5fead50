/** What this window has put into plans; it stays while the page is open. */

import { create } from "zustand";
import { type Filling, NOTHING } from "@/model/plans";

interface PlanStore {
  readonly fillings: Readonly<Record<string, Filling>>;
  change(plan: string, change: (filling: Filling) => Filling): void;
}

export const usePlans = create<PlanStore>((set) => ({
  fillings: {},
  change: (plan, change) =>
    set(({ fillings }) => ({
      fillings: { ...fillings, [plan]: change(fillings[plan] ?? NOTHING) },
    })),
}));
