/** Brings files in, several side by side; one that fails does not stop the others. */

import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { useNavigate } from "react-router";
import { v4 as newId } from "uuid";
import { cancelJob, fetchJob } from "@/api/calls";
import type { BroughtIn, ProjectState } from "@/api/types";
import { bringIn, isLayered, openLayered } from "@/api/uploads";
import { useArrivals } from "@/state/arrivals";
import { type KnownJob, useJobs } from "@/state/jobs";
import { useMessages } from "@/state/messages";

/** Sending is about half of the work, reading in the other. */
const SENDING_SHARE = 0.5;
const ASK_AGAIN_MS = 1500;

type OnPicture = (picture: BroughtIn) => void;

/** Return what brings files in; `onPicture` hears of each that is ready, in any order. */
export function useBringIn(): (files: readonly File[], onPicture?: OnPicture) => void {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useCallback(
    (files, onPicture) => {
      for (const file of files.filter(isLayered)) {
        void openOne(file).then((project) => {
          if (!project) return;
          void client.invalidateQueries({ queryKey: ["wall"] });
          const open = () => void navigate(`/desk/${project.id}`);
          useMessages.getState().say(`${project.name} hangs on the wall now.`, {
            label: "Open it",
            run: open,
          });
        });
      }
      for (const file of files.filter((one) => !isLayered(one))) {
        void bringOneIn(file).then((picture) => {
          void client.invalidateQueries({ queryKey: ["shelf"] });
          if (picture) onPicture?.(picture);
        });
      }
    },
    [client, navigate],
  );
}

const bringOneIn = (file: File): Promise<BroughtIn | null> =>
  arriving(file, async (id, onProgress, signal) => {
    const picture = await bringIn(file, onProgress, signal);
    if (picture.job_id) await readIn(id, picture.job_id);
    return picture;
  });

const openOne = (file: File): Promise<ProjectState | null> =>
  arriving(file, (_, onProgress, signal) => openLayered(file, onProgress, signal));

/** Show a file on its way in; null where it was stopped or refused. */
async function arriving<T>(
  file: File,
  work: (id: string, onProgress: (share: number) => void, signal: AbortSignal) => Promise<T>,
): Promise<T | null> {
  const { add, change, remove } = useArrivals.getState();
  const id = newId();
  const stopping = new AbortController();
  add({
    id,
    name: file.name || "A file without a name",
    stage: "sending",
    progress: 0,
    stop: () => {
      stopping.abort();
      remove(id);
    },
  });
  try {
    const brought = await work(
      id,
      (share) => change(id, { progress: share * SENDING_SHARE }),
      stopping.signal,
    );
    remove(id);
    return stopping.signal.aborted ? null : brought;
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    if (!stopping.signal.aborted) change(id, { stage: "refused", reason });
    return null;
  }
}

/** Wait until a picture is read in, showing how far that is. */
async function readIn(arrivalId: string, jobId: string): Promise<void> {
  const { change, remove } = useArrivals.getState();
  change(arrivalId, {
    stage: "reading",
    jobId,
    stop: () => {
      void cancelJob(jobId);
      remove(arrivalId);
    },
  });
  const job = await jobEnd(jobId, (progress) =>
    change(arrivalId, { progress: SENDING_SHARE + progress * (1 - SENDING_SHARE) }),
  );
  if (job.state === "failed") throw new Error(job.error ?? "It could not be read in.");
}

/** Resolve when a job is over; hears notices, and asks now and then in case one is missed. */
export function jobEnd(jobId: string, onProgress: (share: number) => void): Promise<KnownJob> {
  return new Promise((resolve) => {
    const look = (job: KnownJob | undefined) => {
      if (!job) return;
      onProgress(job.progress);
      if (job.state === "waiting" || job.state === "running") return;
      clearInterval(timer);
      unsubscribe();
      resolve(job);
    };
    const unsubscribe = useJobs.subscribe(({ jobs }) => look(jobs[jobId]));
    const ask = () => fetchJob(jobId).then(useJobs.getState().know, () => undefined);
    const timer = setInterval(ask, ASK_AGAIN_MS);
    look(useJobs.getState().jobs[jobId]);
  });
}
