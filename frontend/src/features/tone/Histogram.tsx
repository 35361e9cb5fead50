/** How often each level occurs: the layer's in ink, what lies behind as an outline. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { useToning } from "@/state/toning";
import { color } from "@/theme/tokens";

const LEVELS = 256;
export const HEIGHT = 96;

const Own = styled.path`
  fill: ${color.ink};
  opacity: 0.55;
`;

const Behind = styled.path`
  fill: none;
  stroke: ${color.on};
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
`;

/** Draw both into a box of 256 by some height, in an SVG that is stretched. */
export function HistogramShapes({
  height = HEIGHT,
}: {
  readonly height?: number;
}): ReactElement | null {
  const counts = useToning((toning) => toning.counts);
  const channel = useToning((toning) => toning.channel);
  if (!counts) return null;
  const top = (heights: Uint8Array) =>
    Array.from(heights, (value, level) => `${level} ${(height * (1 - value / 255)).toFixed(1)}`);
  return (
    <>
      <Own d={`M0 ${height}L${top(counts.own[channel]).join("L")}L${LEVELS - 1} ${height}Z`} />
      <Behind d={`M${top(counts.behind[channel]).join("L")}`} />
    </>
  );
}

const Words = styled.p`
  display: flex;
  gap: 14px;
  color: ${color.softInk};
  font-size: 12.5px;

  span::before {
    content: "";
    display: inline-block;
    width: 12px;
    height: 8px;
    margin-right: 5px;
    background: ${color.ink};
    opacity: 0.55;
  }

  span + span::before {
    border: 1.5px solid ${color.on};
    background: none;
    opacity: 1;
  }
`;

/** Say which is which. */
export function HistogramWords(): ReactElement {
  return (
    <Words>
      <span>This layer</span>
      <span>What lies behind</span>
    </Words>
  );
}
