/** The open gradient's ends and middle, to be dragged on the stage. */

import { Fragment, type ReactElement } from "react";
import styled from "styled-components";
import type { Gradient } from "@/model/composite";
import { type GradientGrip, gripsOf } from "@/model/gradients";
import { canvasToStage, type StageView } from "@/model/viewing";

const Line = styled.line`
  stroke: #fbf9f3;
  stroke-width: 1.5;
  pointer-events: none;

  &[data-shade="true"] {
    stroke: rgb(0 0 0 / 45%);
    stroke-width: 3.5;
  }
`;

const Reach = styled.circle`
  fill: none;
  stroke: #fbf9f3;
  stroke-dasharray: 5 5;
  pointer-events: none;
`;

const Shade = styled.circle`
  fill: none;
  stroke: rgb(0 0 0 / 55%);
  stroke-width: 5.5;
  pointer-events: none;
`;

const End = styled.circle`
  stroke: #fbf9f3;
  stroke-width: 3;
  cursor: move;
`;

const Middle = styled.rect`
  fill: #fbf9f3;
  stroke: #25221d;
  stroke-width: 1.2;
  cursor: move;
`;

const ENDS = ["start", "end"] as const;
const RADIUS = 9;
const SIDE = 10;

interface GradientGripsProps {
  readonly gradient: Gradient;
  readonly view: StageView;
  readonly isLocked: boolean;
}

export function GradientGrips({ gradient, view, isLocked }: GradientGripsProps): ReactElement {
  const grips = gripsOf(gradient);
  const at = (grip: GradientGrip) => canvasToStage(view, grips[grip]);
  const [start, middle, end] = [at("start"), at("middle"), at("end")];
  const isRound = gradient.shape === "round";
  return (
    <g data-testid="grips">
      <Line data-shade="true" x1={start.x} y1={start.y} x2={end.x} y2={end.y} />
      <Line x1={start.x} y1={start.y} x2={end.x} y2={end.y} />
      {isRound ? <Reach cx={start.x} cy={start.y} r={gradient.length * view.scale} /> : null}
      {isLocked ? null : (
        <>
          {isRound ? null : (
            <Middle
              data-grip="middle"
              x={middle.x - SIDE / 2}
              y={middle.y - SIDE / 2}
              width={SIDE}
              height={SIDE}
              transform={`rotate(45 ${middle.x} ${middle.y})`}
            />
          )}
          {ENDS.map((which) => (
            <Fragment key={which}>
              <Shade cx={at(which).x} cy={at(which).y} r={RADIUS} />
              <End
                data-grip={which}
                cx={at(which).x}
                cy={at(which).y}
                r={RADIUS}
                fill={gradient[which].color}
                fillOpacity={Math.max(gradient[which].opacity, 0.15)}
              />
            </Fragment>
          ))}
        </>
      )}
    </g>
  );
}
