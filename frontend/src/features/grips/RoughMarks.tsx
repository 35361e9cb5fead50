/** What a hand said roughly: strokes that keep and drop, a ring, and the brush's ring. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { SizeRing, seenAnywhere, Trace } from "@/features/grips/BrushRing";
import { listed } from "@/features/grips/gripParts";
import type { Composite, PhotoLayer } from "@/model/composite";
import type { Lying } from "@/model/lying";
import { type Hints, type MattePart, NO_HINTS, pictureLying } from "@/model/mattes";
import type { Point } from "@/model/points";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useCutting } from "@/state/cutting";

/** Kept is a full line, dropped a broken one: it is told without a colour too. */
const Line = styled.polyline`
  ${seenAnywhere}
  stroke-linecap: round;
  stroke-linejoin: round;

  &[data-drops="true"] {
    stroke-dasharray: 2 6;
  }

  &[data-ring="true"] {
    stroke-width: 1.5;
    stroke-dasharray: 10 4;
  }
`;

interface RoughMarksProps {
  readonly composite: Composite;
  readonly layer: PhotoLayer;
  readonly part: MattePart | null;
  readonly view: StageView;
}

export function RoughMarks({ composite, layer, part, view }: RoughMarksProps): ReactElement {
  const { does, size, trace, findings } = useCutting();
  const hints: Hints = findings[layer.id]?.hints ?? part?.hints ?? NO_HINTS;
  const lying = pictureLying(composite, layer);
  const drops = does === "drop";
  const isBand = does === "keep" || drops;
  const drawn = trace.map((at) => canvasToStage(view, at));
  return (
    <g data-testid="rough-marks">
      {hints.strokes.map((stroke, place) => (
        <Marked
          // biome-ignore lint/suspicious/noArrayIndexKey: strokes have no other name
          key={place}
          points={onStage(stroke.points, lying, view)}
          drops={!stroke.keeps}
        />
      ))}
      {hints.around ? <Marked points={closed(onStage(hints.around, lying, view))} ring /> : null}
      {isBand && drawn.length > 0 ? (
        <Trace
          data-shows={!drops}
          points={listed(drawn)}
          strokeWidth={Math.max(size * view.scale, 1)}
        />
      ) : null}
      {!isBand && drawn.length > 1 ? <Marked points={closed(drawn)} ring /> : null}
      {isBand ? <SizeRing view={view} size={size} breaks={drops} /> : null}
    </g>
  );
}

interface MarkedProps {
  readonly points: readonly Point[];
  readonly drops?: boolean;
  readonly ring?: boolean;
}

function Marked({ points, drops = false, ring = false }: MarkedProps): ReactElement {
  return (
    <>
      <Line data-shade="true" points={listed(points)} />
      <Line data-drops={drops} data-ring={ring} points={listed(points)} />
    </>
  );
}

function onStage(
  points: readonly (readonly [number, number])[],
  lying: Lying,
  view: StageView,
): Point[] {
  return points.map(([x, y]) => canvasToStage(view, lying.toCanvas({ x, y })));
}

function closed(points: readonly Point[]): readonly Point[] {
  return points[0] ? [...points, points[0]] : points;
}
