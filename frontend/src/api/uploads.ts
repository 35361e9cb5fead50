/** Brings a file in, with progress, and says why where it is refused. */

import { TAKEN } from "@generated/limits";
import { Problem, problemOf, Unreachable } from "@/api/http";
import type { BroughtIn, ProjectState } from "@/api/types";
import type { Font } from "@/model/fonts";

export const LARGEST_FILE_MB = TAKEN.largestFileMb;

type OnProgress = (share: number) => void;

/** Bring a picture in; `onProgress` hears the share that is sent, 0..1. */
export const bringIn = (
  file: File,
  onProgress: OnProgress,
  signal: AbortSignal,
): Promise<BroughtIn> => sendFile<BroughtIn>("/api/pictures", file, onProgress, signal);

/** Open a layered file as a project of its own. */
export const openLayered = (
  file: File,
  onProgress: OnProgress,
  signal: AbortSignal,
): Promise<ProjectState> =>
  sendFile<ProjectState>("/api/projects/layered", file, onProgress, signal);

/** Bring in all fonts of a file. */
export const bringInFont = (
  file: File,
  onProgress: OnProgress,
  signal: AbortSignal,
): Promise<{ readonly fonts: readonly Font[] }> =>
  sendFile<{ readonly fonts: readonly Font[] }>("/api/fonts", file, onProgress, signal);

/** Tell whether a file holds fonts, by its name. */
export function isFont(file: File): boolean {
  return /\.(ttf|otf|ttc|otc|woff2?)$/i.test(file.name);
}

/** Tell whether a file holds layers, by its name. */
export function isLayered(file: File): boolean {
  return file.name.toLowerCase().endsWith(".ora");
}

function sendFile<T>(
  path: string,
  file: File,
  onProgress: OnProgress,
  signal: AbortSignal,
): Promise<T> {
  if (file.size > LARGEST_FILE_MB * 1024 * 1024) {
    return Promise.reject(
      new Problem(
        413,
        "file-too-large",
        `The file is larger than ${LARGEST_FILE_MB} MB. Bring in a smaller copy.`,
      ),
    );
  }
  if (signal.aborted) return Promise.reject(new DOMException("stopped", "AbortError"));
  // XMLHttpRequest, since fetch does not tell how much of a body is sent.
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const body = new FormData();
    body.append("file", file, file.name);
    request.upload.onprogress = (event) => onProgress(event.loaded / Math.max(event.total, 1));
    request.onload = () => {
      if (request.status === 201) resolve(JSON.parse(request.responseText) as T);
      else reject(problemOf(request.status, request.responseText));
    };
    request.onerror = () => reject(new Unreachable());
    request.onabort = () => reject(new DOMException("stopped", "AbortError"));
    signal.addEventListener("abort", () => request.abort());
    request.open("POST", path);
    request.send(body);
  });
}

/** What a file chooser offers; whatever else is dropped is looked at all the same. */
export const ACCEPTED = "image/*,.heic,.heif,.avif,.tif,.tiff,.webp,.jp2,.j2k,.jpx,.gif,.bmp,.ora";
