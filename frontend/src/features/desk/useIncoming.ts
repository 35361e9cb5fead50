/** Files dropped anywhere on the desk's window, and pictures pasted. */

import { useEffect } from "react";
import { filesOf } from "@/api/dropped";
import { layOn } from "@/work/commands";
import type { DeskActions } from "@/work/DeskContext";
import { useBringIn } from "@/work/useBringIn";
import { useBringToShelf } from "@/work/useBringToShelf";

/** Take files beside the stage onto the shelf; lay pasted ones on at once. */
export function useIncoming(desk: DeskActions): void {
  const bringIn = useBringIn();
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
      bringIn(files, (picture) => layOn(desk, picture));
    };
    window.addEventListener("dragover", onDragOver);
    window.addEventListener("drop", onDrop);
    window.addEventListener("paste", onPaste);
    return () => {
      window.removeEventListener("dragover", onDragOver);
      window.removeEventListener("drop", onDrop);
      window.removeEventListener("paste", onPaste);
    };
  }, [desk, bringIn, bringToShelf]);
}
