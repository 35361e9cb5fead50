/** Grips of what shapes a photo: its frame, its four corners, or the grid of its bend. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { Hold, listed, Middle, Outline } from "@/features/grips/gripParts";
import type { FlatLayer } from "@/model/composite";
import { CROP_GRIPS, type CropGrip, gripPlace } from "@/model/cropping";
import { cornersOf, planeToCanvas, toCanvas } from "@/model/geometry";
import type { Point } from "@/model/points";
import { flatBend, gridPoint, type ShapingLine, warped } from "@/model/shaping";
import { canvasToStage, type StageView } from "@/model/viewing";

const REACH = 14;
const KNOB = 6;
const STEPS = 24;

const Tick = styled.polyline`
  fill: none;
  stroke: #fbf9f3;
  stroke-width: 4.5;
  stroke-linecap: square;
  pointer-events: none;

  &[data-shade="true"] {
    stroke: #25221d;
    stroke-width: 7;
  }
`;

interface ShapingGripsProps {
  /** As it lies on the canvas. */
  readonly layer: FlatLayer;
  readonly line: ShapingLine;
  readonly view: StageView;
}

export function ShapingGrips(props: ShapingGripsProps): ReactElement {
  if (props.line === "crop") return <FrameGrips {...props} />;
  return props.line === "corners" ? <CornerGrips {...props} /> : <GridGrips {...props} />;
}

function FrameGrips({ layer, view }: ShapingGripsProps): ReactElement {
  const { placement } = layer;
  const seen = (at: Point) => canvasToStage(view, planeToCanvas(layer, warped(placement, at)));
  const whole = [
    { x: 0, y: 0 },
    { x: layer.width, y: 0 },
    { x: layer.width, y: layer.height },
    { x: 0, y: layer.height },
  ].map((at) => canvasToStage(view, toCanvas(layer, at)));
  const isRound = placement.crop?.shape === "ellipse";
  return (
    <g data-testid="frame-grips">
      {placement.crop ? <Outline points={whole} isClosed isFaint /> : null}
      <Outline points={edgeOf(SQUARE, seen)} isClosed isFaint={isRound} />
      {isRound ? <Outline points={ROUND.map(seen)} isClosed /> : null}
      {(Object.keys(CROP_GRIPS) as CropGrip[]).map((grip) => {
        const home = gripPlace(CROP_GRIPS[grip]);
        const at = seen(home);
        return (
          <g key={grip}>
            <EdgeMark home={home} seen={seen} />
            <Hold data-grip={grip} cx={at.x} cy={at.y} r={REACH} />
          </g>
        );
      })}
    </g>
  );
}

interface EdgeMarkProps {
  /** Where in the frame, 0..1. */
  readonly home: Point;
  seen(at: Point): Point;
}

/** The mitre of a picture frame at a corner, a short bar at a side. */
export function EdgeMark({ home, seen }: EdgeMarkProps): ReactElement {
  const points = listed(endsOf(home, seen));
  return (
    <>
      <Tick data-shade="true" points={points} />
      <Tick points={points} />
    </>
  );
}

const BAR = 13;

/** A mark's ends: out from a corner, away from the middle; along a side to both hands. */
function endsOf(home: Point, seen: (at: Point) => Point): readonly Point[] {
  const from = seen(home);
  const towards = (end: Point, length: number): Point => {
    const to = seen(end);
    const way = Math.hypot(to.x - from.x, to.y - from.y) || 1;
    return {
      x: from.x + ((to.x - from.x) / way) * length,
      y: from.y + ((to.y - from.y) / way) * length,
    };
  };
  if (home.x !== 0.5 && home.y !== 0.5) return [from, towards({ x: 0.5, y: 0.5 }, -BAR * 1.4)];
  const beside =
    home.x === 0.5
      ? [
          { x: 0, y: home.y },
          { x: 1, y: home.y },
        ]
      : [
          { x: home.x, y: 0 },
          { x: home.x, y: 1 },
        ];
  return beside.map((end) => towards(end, BAR));
}

function CornerGrips({ layer, view }: ShapingGripsProps): ReactElement {
  const corners = cornersOf(layer).map((at) => canvasToStage(view, at));
  return (
    <g data-testid="corner-grips">
      <Outline points={corners} isClosed />
      {corners.map((at, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a corner has no other name
        <g key={place}>
          <Middle cx={at.x} cy={at.y} r={KNOB} />
          <Hold data-grip={`pull-${place}`} cx={at.x} cy={at.y} r={REACH} />
        </g>
      ))}
    </g>
  );
}

function GridGrips({ layer, view }: ShapingGripsProps): ReactElement {
  const bend = layer.placement.bend ?? flatBend(3, 3);
  const placement = { ...layer.placement, bend };
  const seen = (at: Point) => canvasToStage(view, planeToCanvas(layer, warped(placement, at)));
  const along = Array.from({ length: STEPS + 1 }, (_, step) => step / STEPS);
  const columns = Array.from({ length: bend.columns }, (_, at) => at / (bend.columns - 1));
  const rows = Array.from({ length: bend.rows }, (_, at) => at / (bend.rows - 1));
  return (
    <g data-testid="bend-grips">
      {columns.map((x) => (
        <Outline key={`c${x}`} points={along.map((y) => seen({ x, y }))} isFaint={x % 1 !== 0} />
      ))}
      {rows.map((y) => (
        <Outline key={`r${y}`} points={along.map((x) => seen({ x, y }))} isFaint={y % 1 !== 0} />
      ))}
      {bend.moves.map((_, place) => {
        const at = seen(gridPoint(bend, place));
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a grid's points have no other name
          <g key={place}>
            <Middle cx={at.x} cy={at.y} r={KNOB - 1.5} />
            <Hold data-grip={`grid-${place}`} cx={at.x} cy={at.y} r={REACH} />
          </g>
        );
      })}
    </g>
  );
}

const SQUARE: readonly Point[] = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];
const ROUND: readonly Point[] = Array.from({ length: 72 }, (_, step) => ({
  x: 0.5 + Math.cos((step * Math.PI) / 36) / 2,
  y: 0.5 + Math.sin((step * Math.PI) / 36) / 2,
}));

/** A frame's outline: its sides are not straight where it is bent. */
function edgeOf(corners: readonly Point[], seen: (at: Point) => Point): readonly Point[] {
  return corners.flatMap((from, place) => {
    const to = corners[(place + 1) % corners.length] as Point;
    return Array.from({ length: STEPS }, (_, step) => {
      const share = step / STEPS;
      return seen({ x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share });
    });
  });
}
