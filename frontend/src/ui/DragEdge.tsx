/** An edge between two parts of the page, dragged or moved by keys to make one larger. */

import { type KeyboardEvent, type ReactElement, useRef } from "react";
import { mergeProps, useMove } from "react-aria";
import styled from "styled-components";
import { color } from "@/theme/tokens";

/** How far one press of an arrow key goes, in CSS pixels. */
const KEY_STEP = 10;

const Edge = styled.hr`
  position: relative;
  z-index: 1;
  align-self: stretch;
  border: 0;
  touch-action: none;

  &::after {
    content: "";
    position: absolute;
  }

  &:hover::after,
  &:focus-visible::after {
    background: ${color.live};
  }

  &[aria-orientation="vertical"] {
    width: 7px;
    height: auto;
    margin: 0 0 0 -7px;
    cursor: col-resize;

    &::after {
      inset: 0 0 0 auto;
      width: 3px;
    }
  }

  &[aria-orientation="horizontal"] {
    /* What lies below may scroll across. */
    position: sticky;
    left: 0;
    height: 7px;
    margin: 0 0 -7px;
    cursor: row-resize;

    &::after {
      inset: 0 0 auto;
      height: 3px;
    }
  }
`;

interface DragEdgeProps {
  readonly label: string;
  /** Which part grows: the one left of the edge, or the one below it. */
  readonly grows: "left" | "below";
  /** In CSS pixels. */
  readonly size: number;
  readonly bounds: { readonly least: number; readonly most: number };
  /** Take a size; null stands for the usual one. */
  onResize(size: number | null): void;
}

export function DragEdge(props: DragEdgeProps): ReactElement {
  const { label, grows, size, bounds, onResize } = props;
  const wanted = useRef(size);
  const { moveProps } = useMove({
    onMoveStart: () => {
      wanted.current = size;
    },
    onMove: ({ deltaX, deltaY, pointerType }) => {
      const moved = grows === "left" ? deltaX : -deltaY;
      wanted.current += pointerType === "keyboard" ? moved * KEY_STEP : moved;
      onResize(wanted.current);
    },
  });
  const onKeyDown = ({ key }: KeyboardEvent) => {
    if (key === "Home") onResize(bounds.least);
    if (key === "End") onResize(bounds.most);
    if (key === "Enter") onResize(null);
  };
  return (
    <Edge
      {...mergeProps(moveProps, { onKeyDown })}
      tabIndex={0}
      aria-orientation={grows === "left" ? "vertical" : "horizontal"}
      aria-label={label}
      aria-valuemin={bounds.least}
      aria-valuemax={bounds.most}
      aria-valuenow={size}
      title="Drag to resize; press twice for the usual size"
      onDoubleClick={() => onResize(null)}
    />
  );
}
