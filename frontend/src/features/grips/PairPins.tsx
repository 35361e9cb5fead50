/** Pins on spots that are pointed at for a match: this, and what it should look like. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { seenAnywhere } from "@/features/grips/BrushRing";
import type { Point } from "@/model/points";
import { canvasToStage, type StageView } from "@/model/viewing";
import { usePairing } from "@/state/pairing";
import { font } from "@/theme/tokens";

const Ring = styled.circle`
  ${seenAnywhere}

  &[data-that="true"] {
    stroke-dasharray: 4 3;
  }
`;

const Way = styled.line`
  ${seenAnywhere}
`;

const Numeral = styled.text`
  fill: #25221d;
  stroke: #fbf9f3;
  stroke-width: 3.5;
  paint-order: stroke;
  font-family: ${font.control};
  font-size: 13px;
  pointer-events: none;
`;

const RADIUS = 8;

export function PairPins({ view }: { readonly view: StageView }): ReactElement {
  const { pairs, first } = usePairing();
  return (
    <g data-testid="pair-pins">
      {pairs.map((pair, place) => {
        const [from, to] = [canvasToStage(view, pair.this), canvasToStage(view, pair.that)];
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a pair has no other name
          <g key={place}>
            <Way data-shade="true" x1={from.x} y1={from.y} x2={to.x} y2={to.y} />
            <Way x1={from.x} y1={from.y} x2={to.x} y2={to.y} />
            <Spot at={from} number={place + 1} />
            <Spot at={to} isThat />
          </g>
        );
      })}
      {first ? <Spot at={canvasToStage(view, first)} number={pairs.length + 1} /> : null}
    </g>
  );
}

interface SpotProps {
  readonly at: Point;
  readonly number?: number;
  readonly isThat?: boolean;
}

function Spot({ at, number, isThat = false }: SpotProps): ReactElement {
  return (
    <>
      <Ring data-shade="true" cx={at.x} cy={at.y} r={RADIUS} />
      <Ring data-that={isThat} cx={at.x} cy={at.y} r={RADIUS} />
      {number ? (
        <Numeral x={at.x + RADIUS + 3} y={at.y - RADIUS + 1}>
          {number}
        </Numeral>
      ) : null}
    </>
  );
}
