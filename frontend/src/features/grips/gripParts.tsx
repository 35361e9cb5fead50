/** What grips are drawn with: light over dark, so that they are seen on any picture. */

import type { ReactElement, ReactNode } from "react";
import styled from "styled-components";
import type { Point } from "@/model/points";
import { color, font } from "@/theme/tokens";

/** Drawn twice, dark beneath light: a shadow filter would halve the frames of a drag. */
const Path = styled.polyline`
  fill: none;
  stroke: #fbf9f3;
  stroke-width: 1.5;
  pointer-events: none;

  &[data-faint="true"] {
    stroke-dasharray: 2 5;
    stroke-linecap: round;
  }

  &[data-shade="true"] {
    stroke: rgb(0 0 0 / 45%);
    stroke-width: 3.5;
  }
`;

const Block = styled.rect`
  fill: #fbf9f3;
  stroke: #25221d;
  stroke-width: 1.2;
  pointer-events: none;
`;

/** Where a hand takes hold: rounder than the bar that is seen. */
export const Hold = styled.circle`
  fill: transparent;
  cursor: move;
`;

export const Middle = styled.circle`
  fill: #fbf9f3;
  stroke: #25221d;
  stroke-width: 1.2;
  cursor: move;
`;

const Word = styled.text`
  fill: ${color.stageNoteInk};
  font-family: ${font.reading};
  font-size: 12.5px;
  text-anchor: middle;
  pointer-events: none;
`;

const Ground = styled.rect`
  fill: ${color.stageNote};
  pointer-events: none;
`;

/** Say points as SVG takes them; a single one is drawn as a dot, a line to itself. */
export function listed(points: readonly Point[]): string {
  const drawn = points.length === 1 ? [...points, ...points] : points;
  return drawn.map(({ x, y }) => `${x.toFixed(1)},${y.toFixed(1)}`).join(" ");
}

interface OutlineProps {
  readonly points: readonly Point[];
  readonly isClosed?: boolean;
  readonly isFaint?: boolean;
}

export function Outline({ points, isClosed = false, isFaint = false }: OutlineProps): ReactElement {
  const all = isClosed && points[0] ? [...points, points[0]] : points;
  const drawn = listed(all);
  return (
    <>
      {isFaint ? null : <Path data-shade="true" points={drawn} />}
      <Path data-faint={isFaint} points={drawn} />
    </>
  );
}

interface BarProps {
  readonly at: Point;
  /** Degrees of the line that the bar lies across. */
  readonly along: number;
  readonly length: number;
}

const THICK = 5;

export function Bar({ at: { x, y }, along, length }: BarProps): ReactElement {
  return (
    <Block
      x={x - THICK / 2}
      y={y - length / 2}
      width={THICK}
      height={length}
      rx={1.5}
      transform={`rotate(${along} ${x} ${y})`}
    />
  );
}

const PLATE = { width: 92, height: 22 };

export function Plate({ at, children }: { at: Point; children: ReactNode }): ReactElement {
  return (
    <>
      <Ground x={at.x - PLATE.width / 2} y={at.y - PLATE.height / 2} {...PLATE} rx={2} />
      <Word x={at.x} y={at.y + 4.5}>
        {children}
      </Word>
    </>
  );
}
