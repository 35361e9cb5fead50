/** Waiting for long work. */

import { fetchJob } from "@/api/calls";
import { Problem } from "@/api/http";
import { type KnownJob, useJobs } from "@/state/jobs";

const ASK_AGAIN_MS = 1500;
const NOT_THERE = 404;

/**
 * Resolve when a job is over; hears notices, and asks now and then in case one is missed.
 * Rejects where the service knows nothing of it any more.
 */
export function jobEnd(jobId: string, onNews: (job: KnownJob) => void): Promise<KnownJob> {
  return new Promise((resolve, reject) => {
    const stop = () => {
      clearInterval(timer);
      unsubscribe();
    };
    const look = (job: KnownJob | undefined) => {
      if (!job) return;
      onNews(job);
      if (job.state === "waiting" || job.state === "running") return;
      stop();
      resolve(job);
    };
    const unsubscribe = useJobs.subscribe(({ jobs }) => look(jobs[jobId]));
    const ask = () =>
      fetchJob(jobId).then(useJobs.getState().know, (error: unknown) => {
        // Without a connection it is asked again: it may well go on meanwhile.
        if (!(error instanceof Problem) || error.status !== NOT_THERE) return;
        stop();
        reject(new Error("The work is not known any more. Nothing was changed; begin it again."));
      });
    const timer = setInterval(ask, ASK_AGAIN_MS);
    look(useJobs.getState().jobs[jobId]);
  });
}
