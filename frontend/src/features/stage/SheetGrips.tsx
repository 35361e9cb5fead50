/** The sheet's edges on the stage, to be pulled, and lines that help to compose. */

import type { ReactElement } from "react";
import { Hold, Outline, Plate } from "@/features/stage/gripParts";
import { EdgeMark } from "@/features/stage/ShapingGrips";
import type { Canvas } from "@/model/composite";
import { CROP_GRIPS, type CropGrip, gripPlace } from "@/model/cropping";
import type { Point } from "@/model/geometry";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useHelping } from "@/state/helping";
import { useShaping } from "@/state/shaping";

const REACH = 14;
const THIRDS = [1 / 3, 1 / 2, 2 / 3];

interface SheetGripsProps {
  readonly canvas: Canvas;
  readonly view: StageView;
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
