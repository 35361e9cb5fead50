/** The open layer's outline, photo corners and turning stem. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { listed, Outline } from "@/features/grips/gripParts";
import type { PlacedLayer } from "@/model/composite";
import { cornersOf } from "@/model/geometry";
import type { Point, Size } from "@/model/points";
import { canvasToStage, type StageView } from "@/model/viewing";

const CORNER = 17;
const STEM = 30;
const KNOB = 6;
/** The knob stays this far inside the stage. */
const REACH = 12;

const Corner = styled.polygon`
  fill: #fbf9f3;
  stroke: #25221d;
  stroke-width: 1.2;
  stroke-linejoin: round;
  cursor: nwse-resize;

  &[data-slant="up"] {
    cursor: nesw-resize;
  }
`;

const Stem = styled.line`
  stroke: #fbf9f3;
  stroke-width: 1.5;
  pointer-events: none;
`;

const Knob = styled.circle`
  fill: #fbf9f3;
  stroke: #25221d;
  stroke-width: 1.2;
  cursor: grab;
`;

interface GripsProps {
  readonly layer: PlacedLayer;
  readonly view: StageView;
  readonly stage: Size;
}

export function Grips({ layer, view, stage }: GripsProps): ReactElement {
  const corners = cornersOf(layer).map((corner) => canvasToStage(view, corner)) as [
    Point,
    Point,
    Point,
    Point,
  ];
  const top = middle(corners[0], corners[1]);
  const centre = middle(corners[0], corners[2]);
  const knob = nearestInside(beyond(top, centre, -STEM), centre, stage);
  return (
    <g data-testid="grips">
      <Outline points={corners} isClosed />
      {layer.locked ? null : (
        <>
          {knob ? (
            <>
              <Stem x1={top.x} y1={top.y} x2={knob.x} y2={knob.y} />
              <Knob data-grip="turn" cx={knob.x} cy={knob.y} r={KNOB} />
            </>
          ) : null}
          {corners.map((corner, index) => (
            <Corner
              // biome-ignore lint/suspicious/noArrayIndexKey: a layer's corners have no other name
              key={index}
              data-grip={index}
              data-slant={corner.x > centre.x === corner.y > centre.y ? "down" : "up"}
              points={cornerPoints(corners, index)}
            />
          ))}
        </>
      )}
    </g>
  );
}

/** A triangle that holds the picture's corner as a photo corner does. */
function cornerPoints(corners: readonly Point[], index: number): string {
  const at = corners[index] as Point;
  const next = corners[(index + 1) % 4] as Point;
  const before = corners[(index + 3) % 4] as Point;
  return listed([at, beyond(at, next, CORNER), beyond(at, before, CORNER)]);
}

function beyond(from: Point, towards: Point, distance: number): Point {
  const length = Math.hypot(towards.x - from.x, towards.y - from.y) || 1;
  return {
    x: from.x + ((towards.x - from.x) / length) * distance,
    y: from.y + ((towards.y - from.y) / length) * distance,
  };
}

/** The first point on the way to `to` that the hand can reach, if any. */
function nearestInside(from: Point, to: Point, stage: Size): Point | null {
  const reach = [
    within(from.x, to.x, REACH, stage.width - REACH),
    within(from.y, to.y, REACH, stage.height - REACH),
  ] as const;
  const first = Math.max(reach[0][0], reach[1][0], 0);
  const last = Math.min(reach[0][1], reach[1][1], 1);
  if (first > last) return null;
  return { x: from.x + (to.x - from.x) * first, y: from.y + (to.y - from.y) * first };
}

/** The shares of the way at which a coordinate enters and leaves `least`..`most`. */
function within(from: number, to: number, least: number, most: number): [number, number] {
  const way = to - from;
  if (way === 0) return from >= least && from <= most ? [0, 1] : [1, 0];
  const shares = [(least - from) / way, (most - from) / way];
  return [Math.min(...shares), Math.max(...shares)];
}

function middle(one: Point, other: Point): Point {
  return { x: (one.x + other.x) / 2, y: (one.y + other.y) / 2 };
}
