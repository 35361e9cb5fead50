/** Has a backdrop found: at once where it was before, or by work that can be stopped. */

import { v4 as newId } from "uuid";
import { askForMatte, cancelJob } from "@/api/calls";
import { askedKey, type CutRequest, type FoundMatte, type Haste } from "@/model/mattes";
import { useCutting } from "@/state/cutting";
import { jobEnd } from "@/work/jobEnd";

export interface Asked {
  readonly picture: string;
  readonly request: CutRequest;
  /** Whether somebody waits for it, may look at it next, or does neither. */
  readonly haste?: Haste;
}

interface Heard {
  onProgress?(share: number): void;
  /** Hears of a rough matte that comes first. */
  onRough?(matte: FoundMatte): void;
}

/** Return a matte, or null where the work was stopped; rejects where none was found. */
export async function findMatte(
  { picture, request, haste = "now" }: Asked,
  signal: AbortSignal,
  heard: Heard = {},
): Promise<FoundMatte | null> {
  const key = askedKey(request);
  const known = useCutting.getState().found[picture]?.[key];
  if (known) return known;
  const answer = await askForMatte(picture, { key: newId(), request, haste });
  const found = answer.found ?? (await worked(answer.job?.id, signal, heard));
  if (found) useCutting.getState().keepFound(picture, key, found);
  return found;
}

async function worked(
  job: string | undefined,
  signal: AbortSignal,
  { onProgress, onRough }: Heard,
): Promise<FoundMatte | null> {
  if (!job) return null;
  const stop = () => void cancelJob(job).catch(() => undefined);
  if (signal.aborted) stop();
  signal.addEventListener("abort", stop);
  const end = await jobEnd(job, (known) => {
    onProgress?.(known.progress);
    const found = known.found as FoundMatte | null | undefined;
    if (found?.rough && known.state === "running") onRough?.(found);
  });
  signal.removeEventListener("abort", stop);
  if (end.state === "failed") throw new Error(end.error ?? "It could not be found.");
  return end.state === "done" ? ((end.found as FoundMatte | null) ?? null) : null;
}
