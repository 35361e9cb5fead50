/** Has a finished file made, follows the work, and saves the file when it is there. */

import { useEffect, useRef, useState } from "react";
import { v4 as newId } from "uuid";
import { cancelJob, exportUrl, startExport } from "@/api/calls";
import type { ExportRequest } from "@/model/finishing";
import type { KnownJob } from "@/state/jobs";
import { savedRevision } from "@/state/project";
import { jobEnd } from "@/work/jobEnd";
import { saveFile } from "@/work/useFinish";

type Phase =
  | { readonly phase: "idle" }
  | { readonly phase: "working"; readonly progress: number; stop(): void }
  | { readonly phase: "done"; readonly jobId: string; readonly fileName: string }
  | { readonly phase: "failed"; readonly reason: string };

type Wishes = Partial<Omit<ExportRequest, "revision">>;

export function useSaveFile(projectId: string): Phase & { start(wishes: Wishes): void } {
  const [phase, setPhase] = useState<Phase>({ phase: "idle" });
  const left = useRef(false);
  useEffect(() => {
    left.current = false;
    return () => {
      left.current = true;
    };
  }, []);
  const tell = (next: Phase) => {
    if (!left.current) setPhase(next);
  };

  const run = async (wishes: Wishes) => {
    const jobId = newId();
    const stopping = new AbortController();
    const tellOn = (next: Phase) => {
      if (!stopping.signal.aborted) tell(next);
    };
    const stop = () => {
      tellOn({ phase: "idle" });
      stopping.abort();
      cancel(jobId);
    };
    const working = (progress: number) => tellOn({ phase: "working", progress, stop });
    working(0);
    try {
      const job = await made(projectId, jobId, wishes, stopping.signal, working);
      if (job) tellOn(phaseAfter(job));
    } catch (error) {
      tellOn({ phase: "failed", reason: error instanceof Error ? error.message : String(error) });
    }
  };
  return { ...phase, start: (wishes) => void run(wishes) };
}

function cancel(jobId: string): void {
  void cancelJob(jobId).catch(() => undefined);
}

/** Have a file made and save it; null where that was stopped. */
async function made(
  projectId: string,
  jobId: string,
  wishes: Wishes,
  signal: AbortSignal,
  onProgress: (progress: number) => void,
): Promise<KnownJob | null> {
  const revision = await savedRevision();
  if (signal.aborted) return null;
  await startExport(projectId, jobId, { ...wishes, revision });
  if (signal.aborted) {
    // Stopped before the service knew of it: now it does.
    cancel(jobId);
    return null;
  }
  const job = await jobEnd(jobId, ({ progress }) => onProgress(progress));
  if (signal.aborted) return null;
  if (job.state === "done") saveFile(exportUrl(jobId));
  return job;
}

function phaseAfter(job: KnownJob): Phase {
  if (job.state === "cancelled") return { phase: "idle" };
  if (job.state === "failed") {
    return { phase: "failed", reason: job.error ?? "The picture could not be made." };
  }
  return { phase: "done", jobId: job.id, fileName: job.file_name ?? "the picture" };
}
