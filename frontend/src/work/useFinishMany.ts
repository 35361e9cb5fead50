/** Has several pictures made into one file, and saves that. */

import { useEffect, useRef, useState } from "react";
import { v4 as newId } from "uuid";
import { cancelJob, exportUrl, startMany } from "@/api/calls";
import type { Many } from "@/model/finishing";
import type { KnownJob } from "@/state/jobs";
import { jobEnd } from "@/work/jobEnd";
import { saveFile } from "@/work/useFinish";

interface NotMade {
  readonly name: string;
  readonly reason: string;
}

type Phase =
  | { readonly phase: "idle" }
  | { readonly phase: "working"; readonly progress: number }
  | { readonly phase: "failed"; readonly reason: string }
  | {
      readonly phase: "done";
      readonly jobId: string;
      readonly name: string;
      readonly made: number;
      readonly failed: readonly NotMade[];
    };

export function useFinishMany(): Phase & { start(many: Many): void; stop(): void } {
  const [phase, setPhase] = useState<Phase>({ phase: "idle" });
  const current = useRef<string | null>(null);
  useEffect(
    () => () => {
      current.current = null;
    },
    [],
  );
  const run = async (many: Many) => {
    const jobId = newId();
    current.current = jobId;
    const tell = (next: Phase) => {
      if (current.current === jobId) setPhase(next);
    };
    tell({ phase: "working", progress: 0 });
    try {
      await startMany(jobId, many);
      const job = await jobEnd(jobId, ({ progress }) => tell({ phase: "working", progress }));
      tell(phaseAfter(job));
      if (job.state === "done" && current.current === jobId) saveFile(exportUrl(jobId));
    } catch (error) {
      tell({ phase: "failed", reason: (error as Error).message });
    }
  };
  const stop = () => {
    if (current.current) void cancelJob(current.current).catch(() => undefined);
    current.current = null;
    setPhase({ phase: "idle" });
  };
  return { ...phase, start: (many) => void run(many), stop };
}

function phaseAfter(job: KnownJob): Phase {
  if (job.state === "cancelled") return { phase: "idle" };
  if (job.state === "failed") {
    return { phase: "failed", reason: job.error ?? "The pictures could not be made." };
  }
  const found = job.found as { made?: number; failed?: NotMade[] } | null;
  return {
    phase: "done",
    jobId: job.id,
    name: job.file_name ?? "the pictures",
    made: found?.made ?? 0,
    failed: found?.failed ?? [],
  };
}
