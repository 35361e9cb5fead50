/** The open shadow on the stage: from where it begins to where it ends, to be dragged. */

import type { ReactElement } from "react";
import { Hold, Middle, Outline, Plate } from "@/features/grips/gripParts";
import { useExtent } from "@/features/grips/useExtent";
import type { Effect, Layer } from "@/model/composite";
import { boxOf, shadowGrips } from "@/model/effects";
import type { Lying } from "@/model/lying";
import { canvasToStage, type StageView } from "@/model/viewing";

const REACH = 15;
const KNOB = 6;
const BELOW = 24;

interface ShadowGripsProps {
  readonly layer: Layer;
  readonly effect: Effect;
  readonly lying: Lying;
  readonly view: StageView;
}

export function ShadowGrips({ layer, effect, lying, view }: ShadowGripsProps): ReactElement | null {
  const extent = useExtent(layer.id);
  const box = boxOf(layer, lying, extent);
  const grips = box && shadowGrips(effect, box);
  if (!grips) return null;
  const [from, end] = [grips.from, grips.end].map((at) =>
    canvasToStage(view, lying.toCanvas(at)),
  ) as [{ x: number; y: number }, { x: number; y: number }];
  return (
    <g data-testid="shadow-grips">
      <Outline points={[from, end]} />
      <Middle cx={end.x} cy={end.y} r={KNOB} />
      <Plate at={{ x: end.x, y: end.y + BELOW }}>Falls here</Plate>
      <Hold data-grip="end" cx={end.x} cy={end.y} r={REACH} />
    </g>
  );
}
