/** Waiting for long work. */

import { fetchJob } from "@/api/calls";
import { type KnownJob, useJobs } from "@/state/jobs";

const ASK_AGAIN_MS = 1500;

/** Resolve when a job is over; hears notices, and asks now and then in case one is missed. */
export function jobEnd(jobId: string, onNews: (job: KnownJob) => void): Promise<KnownJob> {
  return new Promise((resolve) => {
    const look = (job: KnownJob | undefined) => {
      if (!job) return;
      onNews(job);
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
