/** The edge between the pile and the stage, dragged to make one of them wider. */

import { type KeyboardEvent, type ReactElement, useRef } from "react";
import { mergeProps, useMove } from "react-aria";
import styled from "styled-components";
import { PILE_WIDTHS, useSettings } from "@/state/settings";
import { color } from "@/theme/tokens";

/** How far one press of an arrow key goes, in CSS pixels. */
const KEY_STEP = 10;

const Edge = styled.hr`
  position: relative;
  z-index: 1;
  align-self: stretch;
  width: 7px;
  height: auto;
  margin: 0 0 0 -7px;
  border: 0;
  cursor: col-resize;
  touch-action: none;

  &::after {
    content: "";
    position: absolute;
    inset: 0 0 0 auto;
    width: 3px;
  }

  &:hover::after,
  &:focus-visible::after {
    background: ${color.live};
  }
`;

/** How wide the pile is until somebody drags its edge: a share of the window. */
const USUAL = { share: 0.275, least: 300, most: 420 };

export function PileEdge(): ReactElement {
  const pileWidth = useSettings((settings) => settings.pileWidth) ?? usualWidth();
  const { setPileWidth } = useSettings.getState();
  const wide = useRef(pileWidth);
  const { moveProps } = useMove({
    onMoveStart: () => {
      wide.current = pileWidth;
    },
    onMove: ({ deltaX, pointerType }) => {
      wide.current += pointerType === "keyboard" ? deltaX * KEY_STEP : deltaX;
      setPileWidth(wide.current);
    },
  });
  const onKeyDown = ({ key }: KeyboardEvent) => {
    if (key === "Home") setPileWidth(PILE_WIDTHS.least);
    if (key === "End") setPileWidth(PILE_WIDTHS.most);
    if (key === "Enter") setPileWidth(null);
  };
  return (
    <Edge
      {...mergeProps(moveProps, { onKeyDown })}
      tabIndex={0}
      aria-orientation="vertical"
      aria-label="Width of the pile"
      aria-valuemin={PILE_WIDTHS.least}
      aria-valuemax={PILE_WIDTHS.most}
      aria-valuenow={pileWidth}
      title="Drag to make the pile wider; press twice for the width it had"
      onDoubleClick={() => setPileWidth(null)}
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
