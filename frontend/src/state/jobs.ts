/** Long work as the service last told of it. */

import type { components } from "@generated/schema";
import { create } from "zustand";

export interface KnownJob {
  readonly id: string;
  readonly kind: components["schemas"]["JobKind"];
  readonly state: "waiting" | "running" | "paused" | "done" | "failed" | "cancelled";
  readonly progress: number;
  /** What it has found so far, where that is more than a file. */
  readonly found?: Readonly<Record<string, unknown>> | null;
  readonly file_name?: string | null;
  readonly error?: string | null;
}

interface JobStore {
  readonly jobs: Readonly<Record<string, KnownJob>>;
  know(job: KnownJob): void;
}

const MOST_KNOWN = 100;

export const useJobs = create<JobStore>((set) => ({
  jobs: {},
  know: (job) =>
    set(({ jobs: { [job.id]: _, ...others } }) => {
      const newest = Object.entries(others).slice(1 - MOST_KNOWN);
      return { jobs: Object.fromEntries([...newest, [job.id, job]]) };
    }),
}));
