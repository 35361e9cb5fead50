/** Files that are dropped or pasted anywhere on a page. */

import { useEffect } from "react";
import { filesOf } from "@/api/dropped";

/** Hear of them, unless a place of its own on the page took them. */
export function useDroppedFiles(onFiles: (files: readonly File[]) => void): void {
  useEffect(() => {
    const onDragOver = (event: DragEvent) => event.preventDefault();
    const onDrop = (event: DragEvent) => {
      if (event.defaultPrevented) return;
      event.preventDefault();
      void filesOf(event.dataTransfer).then(onFiles);
    };
    const onPaste = (event: ClipboardEvent) => onFiles([...(event.clipboardData?.files ?? [])]);
    window.addEventListener("dragover", onDragOver);
    window.addEventListener("drop", onDrop);
    window.addEventListener("paste", onPaste);
    return () => {
      window.removeEventListener("dragover", onDragOver);
      window.removeEventListener("drop", onDrop);
      window.removeEventListener("paste", onPaste);
    };
  }, [onFiles]);
}
