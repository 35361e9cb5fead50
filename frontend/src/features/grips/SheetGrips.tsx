/** The sheet's edges on the stage, to be pulled, and lines that help to compose. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { Hold, Outline, Plate } from "@/features/grips/gripParts";
import { EdgeMark } from "@/features/grips/ShapingGrips";
import type { Canvas } from "@/model/composite";
import { CROP_GRIPS, type CropGrip, gripPlace } from "@/model/cropping";
import type { Point } from "@/model/points";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useHelping } from "@/state/helping";
import { useShaping } from "@/state/shaping";

const REACH = 14;
const THIRDS = [1 / 3, 1 / 2, 2 / 3];

interface SheetGripsProps {
  readonly canvas: Canvas;
  readonly view: StageView;
}

const Shade = styled.path`
  fill: rgb(0 0 0 / 50%);
  fill-rule: evenodd;
  pointer-events: none;
`;

interface FallsOutProps extends SheetGripsProps {
  readonly frame: { left: number; top: number; width: number; height: number };
}

/** Darkens what of the picture the new sheet would leave out of sight. */
function FallsOut({ canvas, view, frame }: FallsOutProps): ReactElement | null {
  if (frame.width === canvas.width && frame.height === canvas.height) return null;
  const round = (left: number, top: number, right: number, bottom: number) => {
    const [a, b] = [
      canvasToStage(view, { x: left, y: top }),
      canvasToStage(view, { x: right, y: bottom }),
    ];
    return `M${a.x} ${a.y}H${b.x}V${b.y}H${a.x}Z`;
  };
  const [right, bottom] = [frame.left + frame.width, frame.top + frame.height];
  const kept = round(
    Math.max(frame.left, 0),
    Math.max(frame.top, 0),
    Math.min(right, canvas.width),
    Math.min(bottom, canvas.height),
  );
  return <Shade d={`${round(0, 0, canvas.width, canvas.height)}${kept}`} />;
}

export function SheetGrips({ canvas, view }: SheetGripsProps): ReactElement {
  const isLevelling = useShaping((shaping) => shaping.isLevelling);
  const level = useHelping((helping) => helping.level);
  const frame = useHelping((helping) => helping.frame) ?? { left: 0, top: 0, ...canvas };
  const seen = ({ x, y }: Point) =>
    canvasToStage(view, { x: frame.left + x * frame.width, y: frame.top + y * frame.height });
  const middle = seen({ x: 0.5, y: 1 });
  return (
    <g data-testid="sheet-grips">
      <FallsOut view={view} canvas={canvas} frame={frame} />
      {THIRDS.flatMap((share) => [
        <Outline
          key={`x${share}`}
          points={[seen({ x: share, y: 0 }), seen({ x: share, y: 1 })]}
          isFaint
        />,
        <Outline
          key={`y${share}`}
          points={[seen({ x: 0, y: share }), seen({ x: 1, y: share })]}
          isFaint
        />,
      ])}
      <Outline
        points={[
          seen({ x: 0, y: 0 }),
          seen({ x: 1, y: 0 }),
          seen({ x: 1, y: 1 }),
          seen({ x: 0, y: 1 }),
        ]}
        isClosed
      />
      {frame.width === canvas.width && frame.height === canvas.height ? null : (
        <Plate at={{ x: middle.x, y: middle.y - 18 }}>
          {frame.width} × {frame.height}
        </Plate>
      )}
      {level ? <Outline points={level.map((at) => canvasToStage(view, at))} /> : null}
      {isLevelling
        ? null
        : (Object.keys(CROP_GRIPS) as CropGrip[]).map((grip) => {
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
