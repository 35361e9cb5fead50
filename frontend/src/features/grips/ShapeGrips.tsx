/** The open shape of a mask on the stage: corners, turning stem and soft edge. */

import type { ReactElement } from "react";
import { Bar, Hold, Middle, Outline } from "@/features/grips/gripParts";
import type { Lying } from "@/model/lying";
import { type ShapePart, shapeCorners, shapePoint } from "@/model/masks";
import type { Point } from "@/model/points";
import { canvasToStage, type StageView } from "@/model/viewing";

const REACH = 13;
const KNOB = 5.5;
const STEM = 30;
const STEPS = 72;

interface ShapeGripsProps {
  readonly part: ShapePart;
  readonly lying: Lying;
  readonly view: StageView;
  readonly isLocked: boolean;
}

export function ShapeGrips({ part, lying, view, isLocked }: ShapeGripsProps): ReactElement {
  const seen = (own: Point) => canvasToStage(view, lying.toCanvas(own));
  const corners = shapeCorners(part).map(seen);
  const middle = seen(part);
  const top = seen(shapePoint(part, 0, -1));
  const away = Math.hypot(top.x - middle.x, top.y - middle.y) || 1;
  const knob = {
    x: top.x + ((top.x - middle.x) / away) * STEM,
    y: top.y + ((top.y - middle.y) / away) * STEM,
  };
  const soft = seen(shapePoint(part, 1 + part.softness / part.width, 0));
  return (
    <g data-testid="shape-grips">
      {part.kind === "ellipse" ? <Outline points={ellipseOf(part).map(seen)} isClosed /> : null}
      <Outline points={corners} isClosed isFaint={part.kind === "ellipse"} />
      {part.softness > 0 ? <Outline points={softOutline(part).map(seen)} isClosed isFaint /> : null}
      {isLocked ? null : (
        <>
          <Outline points={[top, knob]} />
          <Middle data-grip="turn" cx={knob.x} cy={knob.y} r={KNOB} />
          <Middle data-grip="middle" cx={middle.x} cy={middle.y} r={KNOB} />
          {corners.map((at, corner) => (
            // A corner is known by its place alone.
            // biome-ignore lint/suspicious/noArrayIndexKey: see above
            <g key={corner}>
              <Middle cx={at.x} cy={at.y} r={KNOB - 1} />
              <Hold data-grip={corner} cx={at.x} cy={at.y} r={REACH} />
            </g>
          ))}
          <Bar
            at={soft}
            along={(Math.atan2(soft.y - middle.y, soft.x - middle.x) * 180) / Math.PI}
            length={18}
          />
          <Hold data-grip="soft" cx={soft.x} cy={soft.y} r={REACH} />
        </>
      )}
    </g>
  );
}

function ellipseOf(part: ShapePart): Point[] {
  return Array.from({ length: STEPS }, (_, step) => {
    const angle = (2 * Math.PI * step) / STEPS;
    return shapePoint(part, Math.cos(angle), Math.sin(angle));
  });
}

/** Where a soft edge ends. */
function softOutline(part: ShapePart): Point[] {
  const wider = {
    ...part,
    width: part.width + part.softness,
    height: part.height + part.softness,
  };
  return part.kind === "ellipse" ? ellipseOf(wider) : shapeCorners(wider);
}
