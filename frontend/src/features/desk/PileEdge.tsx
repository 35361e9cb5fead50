/** The edge between the pile and the stage, and how wide the pile is. */

import { type ReactElement, useSyncExternalStore } from "react";
import { PILE_WIDTHS, useSettings } from "@/state/settings";
import { DragEdge } from "@/ui/DragEdge";

/** How wide the pile is until somebody drags its edge: a share of the window. */
const USUAL = { share: 0.275, least: 300, most: 420 };
/** Of the window, whatever was dragged. */
const MOST = 0.5;

export function PileEdge(): ReactElement {
  return (
    <DragEdge
      label="Width of the pile"
      grows="left"
      size={usePileWidth()}
      bounds={PILE_WIDTHS}
      onResize={useSettings.getState().setPileWidth}
    />
  );
}

/** Return how wide the pile is, in CSS pixels. */
export function usePileWidth(): number {
  const dragged = useSettings((settings) => settings.pileWidth);
  const window = useSyncExternalStore(onResize, innerWide);
  const usual = Math.max(USUAL.least, Math.min(window * USUAL.share, USUAL.most));
  return Math.round(Math.min(dragged ?? usual, window * MOST));
}

function onResize(tell: () => void): () => void {
  window.addEventListener("resize", tell);
  return () => window.removeEventListener("resize", tell);
}

function innerWide(): number {
  return window.innerWidth;
}
