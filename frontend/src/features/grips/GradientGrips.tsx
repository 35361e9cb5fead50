/** The open gradient's ends and middle, to be dragged on the stage. */

import { Fragment, type ReactElement, type SVGProps } from "react";
import styled from "styled-components";
import { Hold, Middle, Outline } from "@/features/grips/gripParts";
import type { Gradient } from "@/model/composite";
import { type GradientGrip, gripsOf } from "@/model/gradients";
import type { Point } from "@/model/points";
import { canvasToStage, type StageView } from "@/model/viewing";

const Reach = styled.circle`
  fill: none;
  stroke: #fbf9f3;
  stroke-dasharray: 5 5;
  pointer-events: none;
`;

const Bar = styled.rect`
  stroke: #fbf9f3;
  stroke-width: 2.5;
  pointer-events: none;

  &[data-shade="true"] {
    fill: none;
    stroke: rgb(0 0 0 / 55%);
    stroke-width: 5;
  }
`;

const ENDS = ["start", "end"] as const;
const REACH = 14;
const LONG = 26;
const THICK = 8;
const KNOB = 5.5;

/** A bar lies across the gradient, along the line where an end is reached. */
function barAt({ x, y }: Point, angle: number): SVGProps<SVGRectElement> {
  return {
    x: x - THICK / 2,
    y: y - LONG / 2,
    width: THICK,
    height: LONG,
    rx: 2,
    transform: `rotate(${angle} ${x} ${y})`,
  };
}

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
      <Outline points={[start, end]} />
      {isRound ? <Reach cx={start.x} cy={start.y} r={gradient.length * view.scale} /> : null}
      {isLocked ? null : (
        <>
          {isRound ? null : <Middle data-grip="middle" cx={middle.x} cy={middle.y} r={KNOB} />}
          {ENDS.map((which) => (
            <Fragment key={which}>
              <Bar data-shade="true" {...barAt(at(which), gradient.angle)} />
              <Bar
                {...barAt(at(which), gradient.angle)}
                fill={gradient[which].color}
                fillOpacity={Math.max(gradient[which].opacity, 0.15)}
              />
              <Hold data-grip={which} cx={at(which).x} cy={at(which).y} r={REACH} />
            </Fragment>
          ))}
        </>
      )}
    </g>
  );
}
