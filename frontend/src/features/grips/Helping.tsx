/** Ticks where layers lie on one line, how far the next ones are, the ring round several. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { Middle, Outline } from "@/features/grips/gripParts";
import { chosenOnCanvas } from "@/model/choosing";
import type { Composite } from "@/model/composite";
import { cornersOf } from "@/model/geometry";
import type { Point } from "@/model/points";
import { boundsOf, type Gap, unionOf } from "@/model/snapping";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";
import { useHelping } from "@/state/helping";
import { color, font } from "@/theme/tokens";

const TICK = 9;
const REACH = 14;
const KNOB = 6;
const STEM = 30;

const Line = styled.line`
  stroke: ${color.live};
  stroke-width: 2;
  pointer-events: none;

  &[data-shade="true"] {
    stroke: #fbf9f3;
    stroke-width: 4;
  }
`;

const Round = styled.circle`
  fill: none;
  stroke: ${color.live};
  stroke-width: 2;
  pointer-events: none;

  &[data-shade="true"] {
    stroke: #fbf9f3;
    stroke-width: 4;
  }
`;

const Span = styled.line`
  stroke: #25221d;
  stroke-width: 1;
  pointer-events: none;

  &[data-equal="true"] {
    stroke: ${color.live};
    stroke-width: 2;
  }
`;

const Wide = styled.text`
  fill: #25221d;
  stroke: #fbf9f3;
  stroke-width: 3.5;
  paint-order: stroke;
  font-family: ${font.control};
  font-size: 12px;
  text-anchor: middle;
  pointer-events: none;
`;

export function SnapTicks({ view }: { readonly view: StageView }): ReactElement | null {
  const snap = useHelping((helping) => helping.snap);
  if (!snap) return null;
  return (
    <g data-testid="snap-ticks">
      {snap.gaps.map((gap) => (
        <GapLine key={`${gap.axis}${gap.from}${gap.along}`} gap={gap} view={view} />
      ))}
      {snap.ticks.flatMap(({ axis, at, along }) =>
        along.map((place) => {
          const on = canvasToStage(view, axis === "x" ? { x: at, y: place } : { x: place, y: at });
          const ends =
            axis === "x"
              ? { x1: on.x, x2: on.x, y1: on.y - TICK, y2: on.y + TICK }
              : { x1: on.x - TICK, x2: on.x + TICK, y1: on.y, y2: on.y };
          return (
            <g key={`${axis}${at}${place}`}>
              <Line data-shade="true" {...ends} />
              <Line {...ends} />
            </g>
          );
        }),
      )}
    </g>
  );
}

function GapLine({ gap, view }: { readonly gap: Gap; readonly view: StageView }): ReactElement {
  const place = (at: number) =>
    canvasToStage(view, gap.axis === "x" ? { x: at, y: gap.along } : { x: gap.along, y: at });
  const [from, to] = [place(gap.from), place(gap.to)];
  return (
    <>
      <Span data-equal={gap.isEqual} x1={from.x} y1={from.y} x2={to.x} y2={to.y} />
      <Wide x={(from.x + to.x) / 2} y={(from.y + to.y) / 2 - 5}>
        {Math.round(gap.to - gap.from)}
      </Wide>
    </>
  );
}

/** Where a corner rests on what lies beneath: a small ring round the point. */
export function RestingSpot({ view }: { readonly view: StageView }): ReactElement | null {
  const spot = useHelping((helping) => helping.spot);
  if (!spot) return null;
  const { x, y } = canvasToStage(view, spot);
  return (
    <g data-testid="resting-spot">
      <Round data-shade="true" cx={x} cy={y} r={TICK} />
      <Round cx={x} cy={y} r={TICK} />
    </g>
  );
}

export function Ring({ view }: { readonly view: StageView }): ReactElement | null {
  const ring = useHelping((helping) => helping.ring);
  if (!ring) return null;
  return <Outline points={ring.map((at) => canvasToStage(view, at))} isClosed />;
}

interface ChosenGripsProps {
  readonly composite: Composite;
  readonly view: StageView;
}

/** Each chosen layer's outline, and grips round all of them. */
export function ChosenGrips({ composite, view }: ChosenGripsProps): ReactElement | null {
  const chosen = useDesk((desk) => desk.chosen);
  const layers = chosenOnCanvas(composite, chosen);
  if (layers.length < 2) return null;
  const around = unionOf(layers.map(boundsOf));
  const corners: readonly Point[] = [
    { x: around.left, y: around.top },
    { x: around.right, y: around.top },
    { x: around.right, y: around.bottom },
    { x: around.left, y: around.bottom },
  ].map((at) => canvasToStage(view, at));
  const [first, second] = corners as [Point, Point];
  const top = { x: (first.x + second.x) / 2, y: first.y };
  return (
    <g data-testid="chosen-grips">
      {layers.map((layer) => (
        <Outline
          key={layer.id}
          points={cornersOf(layer).map((at) => canvasToStage(view, at))}
          isClosed
        />
      ))}
      <Outline points={corners} isClosed isFaint />
      <Outline points={[top, { x: top.x, y: top.y - STEM }]} />
      <Middle data-grip="turn" cx={top.x} cy={top.y - STEM} r={KNOB} />
      {corners.map((at, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a corner has no other name
        <g key={place}>
          <Middle cx={at.x} cy={at.y} r={KNOB} />
          <circle
            data-grip={place}
            cx={at.x}
            cy={at.y}
            r={REACH}
            fill="transparent"
            cursor="move"
          />
        </g>
      ))}
    </g>
  );
}
