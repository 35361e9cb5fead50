/** The edge between the pile and the stage. */

import type { ReactElement } from "react";
import { PILE_WIDTHS, useSettings } from "@/state/settings";
import { DragEdge } from "@/ui/DragEdge";

/** How wide the pile is until somebody drags its edge: a share of the window. */
const USUAL = { share: 0.275, least: 300, most: 420 };

export function PileEdge(): ReactElement {
  const { pileWidth, setPileWidth } = useSettings();
  return (
    <DragEdge
      label="Width of the pile"
      grows="left"
      size={pileWidth ?? usualWidth()}
      bounds={PILE_WIDTHS}
      onResize={setPileWidth}
    />
  );
}

/** Return the pile's column of a grid: never more than half of the window. */
export function pileColumn(width: number | null): string {
  if (width !== null) return `min(${width}px, 50vw)`;
  return `clamp(${USUAL.least}px, ${USUAL.share * 100}vw, ${USUAL.most}px)`;
}

function usualWidth(): number {
  const share = Math.round(window.innerWidth * USUAL.share);
  return Math.max(USUAL.least, Math.min(share, USUAL.most));
}
