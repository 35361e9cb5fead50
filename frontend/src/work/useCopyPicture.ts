/** Puts the picture on the clipboard, as a PNG: the one kind that all programs paste. */

import { useState } from "react";
import { v4 as newId } from "uuid";
import { exportUrl, startExport } from "@/api/calls";
import { type ExportRequest, withFormat } from "@/model/finishing";
import { useMessages } from "@/state/messages";
import { jobEnd } from "@/work/jobEnd";

interface Copied {
  readonly project: { readonly id: string };
  readonly request: ExportRequest;
}

export function useCopyPicture({ project, request }: Copied): {
  readonly isBusy: boolean;
  copy(): void;
} {
  const [isBusy, setBusy] = useState(false);
  const { warn, say } = useMessages();
  const copy = () => {
    setBusy(true);
    // A browser lets a page write only at once after a press: the picture comes later.
    const picture = asPng(project.id, request);
    navigator.clipboard
      .write([new ClipboardItem({ "image/png": picture })])
      .then(
        () => say("The picture is on the clipboard."),
        (error: Error) => warn(`The picture could not be copied: ${error.message}`),
      )
      .finally(() => setBusy(false));
  };
  return { isBusy, copy };
}

async function asPng(projectId: string, request: ExportRequest): Promise<Blob> {
  const plain: ExportRequest = {
    ...request,
    ...withFormat(request, "png"),
    apart: [],
    bits: 8,
    most_bytes: null,
  };
  const jobId = newId();
  await startExport(projectId, jobId, plain);
  const job = await jobEnd(jobId, () => undefined);
  if (job.state !== "done") throw new Error(job.error ?? "it could not be made");
  return (await fetch(exportUrl(jobId))).blob();
}
