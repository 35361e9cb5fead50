/** Files dropped anywhere on the desk's window, and pictures pasted. */

import { useEffect } from "react";
import { filesOf } from "@/api/dropped";
import type { DeskActions } from "@/work/DeskContext";
import { useBringOn } from "@/work/useBringOn";
import { useBringToShelf } from "@/work/useBringToShelf";

/** Take files beside the stage onto the shelf; lay pasted ones on at once. */
export function useIncoming(desk: DeskActions): void {
  const bringOn = useBringOn(desk);
  const bringToShelf = useBringToShelf(desk);
  useEffect(() => {
    const onDragOver = (event: DragEvent) => event.preventDefault();
    const onDrop = (event: DragEvent) => {
      event.preventDefault();
      void filesOf(event.dataTransfer).then(bringToShelf);
    };
    const onPaste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      if (files.length === 0) return;
      event.preventDefault();
      bringOn(files);
    };
    window.addEventListener("dragover", onDragOver);
    window.addEventListener("drop", onDrop);
    window.addEventListener("paste", onPaste);
    return () => {
      window.removeEventListener("dragover", onDragOver);
      window.removeEventListener("drop", onDrop);
      window.removeEventListener("paste", onPaste);
    };
  }, [bringOn, bringToShelf]);
}
