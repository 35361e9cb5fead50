/** Brings files in, several side by side; one that fails does not stop the others. */

import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { useNavigate } from "react-router";
import { v4 as newId } from "uuid";
import { cancelJob, lendPicture } from "@/api/calls";
import { MOST_FILES } from "@/api/dropped";
import type { BroughtIn } from "@/api/types";
import { bringIn, isLayered, openLayered } from "@/api/uploads";
import { InOrder, Lanes } from "@/model/lanes";
import { useArrivals } from "@/state/arrivals";
import { useMessages } from "@/state/messages";
import { jobEnd } from "@/work/jobEnd";

/** Sending is about half of the work, reading in the other. */
const SENDING_SHARE = 0.5;

/** A file is sent, and decoded by the service, as a whole: more at once take no less time. */
const lanes = new Lanes(3);

/** Return how many of some files are brought in as photos. */
export function countPhotos(files: readonly File[]): number {
  return files.slice(0, MOST_FILES).filter((file) => !isLayered(file)).length;
}

type OnPicture = (picture: BroughtIn) => void;
type BringIn = (files: readonly File[], onPicture?: OnPicture, onAll?: () => void) => void;

/**
 * Return what brings files in; `onPicture` hears of each that is ready, in the order in
 * which the files were given, and `onAll` when none is on its way any more.
 */
export function useBringIn(): BringIn {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useCallback(
    (given, onPicture, onAll) => {
      const files = given.slice(0, MOST_FILES);
      if (files.length < given.length) {
        const left = `Only the first ${MOST_FILES} files are brought in; bring the others in after.`;
        useMessages.getState().warn(left);
      }
      for (const file of files.filter(isLayered)) {
        arriving(nameOf(file), sending(file, openLayered), (project) => {
          if (!project) return;
          void client.invalidateQueries({ queryKey: ["wall"] });
          const open = () => void navigate(`/desk/${project.id}`);
          useMessages.getState().say(`${project.name} hangs on the wall now.`, {
            label: "Open it",
            run: open,
          });
        });
      }
      const ready = new InOrder<BroughtIn>((picture) => onPicture?.(picture));
      const photos = files.filter((one) => !isLayered(one));
      let coming = photos.length;
      photos.forEach((file, place) => {
        arriving(nameOf(file), sending(file, bringOneIn), (picture) => {
          void client.invalidateQueries({ queryKey: ["shelf"] });
          if (picture?.note) useMessages.getState().say(`${picture.name}: ${picture.note}`);
          ready.put(place, picture);
          coming -= 1;
          if (coming === 0) onAll?.();
        });
      });
    },
    [client, navigate],
  );
}

async function bringOneIn(
  file: File,
  onProgress: (share: number) => void,
  signal: AbortSignal,
  id: string,
): Promise<BroughtIn> {
  const picture = await bringIn(file, onProgress, signal);
  if (picture.job_id) await readIn(id, picture.job_id, signal);
  return picture;
}

const nameOf = (file: File) => file.name || "A file without a name";

type Work<T> = (onProgress: (share: number) => void, signal: AbortSignal, id: string) => Promise<T>;

function sending<T>(file: File, send: (file: File, ...work: Parameters<Work<T>>) => Promise<T>) {
  return (...work: Parameters<Work<T>>) => send(file, ...work);
}

/** Bring a picture of the library in; `onPicture` hears of it once it is ready. */
export function lend(
  { name, title }: { readonly name: string; readonly title: string },
  onPicture: OnPicture,
): void {
  const work: Work<BroughtIn> = async (_onProgress, signal, id) => {
    const picture = await lendPicture(name);
    if (picture.job_id) await readIn(id, picture.job_id, signal);
    return picture;
  };
  arriving(title, work, (picture) => {
    if (picture) onPicture(picture);
  });
}

/** Show something on its way in; `onEnd` hears null where it was stopped or refused. */
function arriving<T>(name: string, work: Work<T>, onEnd: (brought: T | null) => void): void {
  const { add, change, remove } = useArrivals.getState();
  const id = newId();
  const stopping = new AbortController();
  const stop = () => {
    stopping.abort();
    remove(id);
  };
  add({ id, name, stage: "waiting", progress: 0, stop });
  const begin = async () => {
    if (stopping.signal.aborted) return null;
    change(id, { stage: "sending" });
    const onProgress = (share: number) => change(id, { progress: share * SENDING_SHARE });
    return work(onProgress, stopping.signal, id);
  };
  lanes.run(begin).then(
    (brought) => {
      remove(id);
      onEnd(stopping.signal.aborted ? null : brought);
    },
    (error: Error) => {
      const again = () => {
        remove(id);
        arriving(name, work, onEnd);
      };
      if (!stopping.signal.aborted) change(id, { stage: "refused", reason: error.message, again });
      onEnd(null);
    },
  );
}

/** Wait until a picture is read in, showing how far that is; stopped, it is read no more. */
async function readIn(arrivalId: string, jobId: string, signal: AbortSignal): Promise<void> {
  const { change } = useArrivals.getState();
  const stop = () => void cancelJob(jobId).catch(() => undefined);
  if (signal.aborted) stop();
  signal.addEventListener("abort", stop, { once: true });
  change(arrivalId, { stage: "reading", jobId });
  const job = await jobEnd(jobId, ({ progress }) =>
    change(arrivalId, { progress: SENDING_SHARE + progress * (1 - SENDING_SHARE) }),
  );
  if (job.state === "failed") throw new Error(job.error ?? "It could not be read in.");
}
