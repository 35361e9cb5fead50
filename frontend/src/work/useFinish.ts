/** Has a finished file made, follows the work, and saves the file when it is there. */

import { useEffect, useRef, useState } from "react";
import { v4 as newId } from "uuid";
import { cancelJob, exportUrl, startExport } from "@/api/calls";
import type { ExportRequest } from "@/api/types";
import type { KnownJob } from "@/state/jobs";
import { savedRevision } from "@/state/project";
import { jobEnd } from "@/work/jobEnd";

type Phase =
  | { readonly phase: "idle" }
  | { readonly phase: "working"; readonly progress: number; stop(): void }
  | { readonly phase: "done"; readonly jobId: string; readonly fileName: string }
  | { readonly phase: "failed"; readonly reason: string };

type Wishes = Omit<ExportRequest, "revision">;

export function useFinish(projectId: string): Phase & { start(wishes: Wishes): void } {
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
    const stop = () => void cancelJob(jobId);
    tell({ phase: "working", progress: 0, stop });
    try {
      await startExport(projectId, jobId, { ...wishes, revision: await savedRevision() });
      const job = await jobEnd(jobId, ({ progress }) => tell({ phase: "working", progress, stop }));
      if (job.state === "done") saveFile(exportUrl(jobId));
      tell(phaseAfter(job));
    } catch (error) {
      tell({ phase: "failed", reason: error instanceof Error ? error.message : String(error) });
    }
  };
  return { ...phase, start: (wishes) => void run(wishes) };
}

function phaseAfter(job: KnownJob): Phase {
  if (job.state === "cancelled") return { phase: "idle" };
  if (job.state === "failed") {
    return { phase: "failed", reason: job.error ?? "The picture could not be made." };
  }
  return { phase: "done", jobId: job.id, fileName: job.file_name ?? "the picture" };
}

function saveFile(url: string): void {
  const link = document.createElement("a");
  link.href = url;
  link.download = "";
  link.click();
}
