/**
 * Has a finished file made, and follows the work. It is made as soon as nothing is changed
 * any more, so that its size is known before it is saved, and saving it is fetching it.
 */

import { useEffect, useRef, useState } from "react";
import { v4 as newId } from "uuid";
import { cancelJob, exportUrl, startExport } from "@/api/calls";
import type { ExportRequest, GaveWay } from "@/model/finishing";
import type { KnownJob } from "@/state/jobs";
import { jobEnd } from "@/work/jobEnd";

const REST_MS = 700;

export interface MadeFile {
  readonly jobId: string;
  readonly name: string;
  readonly bytes: number | null;
  readonly found: GaveWay | null;
}

export type FileMaking =
  | { readonly phase: "idle" }
  | { readonly phase: "making"; readonly progress: number }
  | { readonly phase: "made"; readonly file: MadeFile }
  | { readonly phase: "failed"; readonly reason: string };

interface Work {
  readonly jobId: string;
  readonly end: Promise<MadeFile | null>;
  /** Whether somebody has saved it, so that it is not taken away. */
  wanted: boolean;
}

export interface Finish {
  readonly making: FileMaking;
  /** What was saved last. */
  readonly saved: MadeFile | null;
  /** The work of what is told of already. */
  readonly made: readonly string[];
  /** Resolves with the file, made now where it is not there yet; null where stopped. */
  file(): Promise<MadeFile | null>;
  save(): Promise<void>;
  stop(): void;
}

/** `request` null makes nothing; `isEager` says whether it is made before it is asked for. */
export function useFinish(
  projectId: string,
  request: ExportRequest | null,
  isEager: boolean,
): Finish {
  const [making, setMaking] = useState<FileMaking>({ phase: "idle" });
  const [saved, setSaved] = useState<MadeFile | null>(null);
  const work = useRef<Work | null>(null);
  const stamp = request === null ? null : JSON.stringify(request);

  const begin = (): Work | null => {
    if (request === null) return null;
    if (work.current) return work.current;
    const jobId = newId();
    const tell = (next: FileMaking) => {
      if (work.current?.jobId === jobId) setMaking(next);
    };
    const end = makeFile(projectId, jobId, request, tell);
    work.current = { jobId, end, wanted: false };
    setMaking({ phase: "making", progress: 0 });
    return work.current;
  };

  // biome-ignore lint/correctness/useExhaustiveDependencies: the stamp stands for the request
  useEffect(() => {
    setMaking({ phase: "idle" });
    const timer = stamp !== null && isEager ? setTimeout(begin, REST_MS) : undefined;
    return () => {
      clearTimeout(timer);
      letGo(work.current);
      work.current = null;
    };
  }, [stamp, isEager, projectId]);

  const file = async () => {
    const current = begin();
    if (!current) return null;
    current.wanted = true;
    return current.end;
  };
  const save = async () => {
    const found = await file();
    if (!found) return;
    setSaved(found);
    saveFile(exportUrl(found.jobId));
  };
  const stop = () => {
    if (work.current) cancel(work.current.jobId);
    work.current = null;
    setMaking({ phase: "idle" });
  };
  const made = [saved, making.phase === "made" ? making.file : null].flatMap((one) =>
    one ? [one.jobId] : [],
  );
  return { making, saved, made, file, save, stop };
}

function letGo(work: Work | null): void {
  // A file that was made to be measured alone would be kept for nothing.
  if (work && !work.wanted) cancel(work.jobId);
}

function cancel(jobId: string): void {
  void cancelJob(jobId).catch(() => undefined);
}

async function makeFile(
  projectId: string,
  jobId: string,
  request: ExportRequest,
  tell: (next: FileMaking) => void,
): Promise<MadeFile | null> {
  try {
    await startExport(projectId, jobId, request);
    const job = await jobEnd(jobId, ({ progress }) => tell({ phase: "making", progress }));
    if (job.state === "done") {
      const file = fileOf(job);
      tell({ phase: "made", file });
      return file;
    }
    const reason = job.error ?? "The picture could not be made.";
    tell(job.state === "failed" ? { phase: "failed", reason } : { phase: "idle" });
  } catch (error) {
    tell({ phase: "failed", reason: error instanceof Error ? error.message : String(error) });
  }
  return null;
}

function fileOf({ id, file_name, found }: KnownJob): MadeFile {
  const facts = found as (GaveWay & { bytes?: number }) | null;
  return { jobId: id, name: file_name ?? "the picture", bytes: facts?.bytes ?? null, found: facts };
}

export function saveFile(url: string): void {
  const link = document.createElement("a");
  link.href = url;
  link.download = "";
  link.click();
}
