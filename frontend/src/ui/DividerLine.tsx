/** A line across a place, from top to bottom, that is dragged to either side. */

import type { ReactElement } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";

const Scale = styled(Slider)`
  position: absolute;
  inset: 0;
  pointer-events: none;
`;

const Track = styled(SliderTrack)`
  width: 100%;
  height: 100%;
`;

/** The line, and in its middle what is taken hold of. */
const Line = styled(SliderThumb)`
  top: 50%;
  width: 44px;
  height: 100%;
  background: linear-gradient(
    to right,
    transparent 20px,
    #25221d 20px,
    #25221d 21px,
    #fcfaf5 21px,
    #fcfaf5 23px,
    #25221d 23px,
    #25221d 24px,
    transparent 24px
  );
  cursor: ew-resize;
  pointer-events: auto;

  &::after {
    content: "";
    position: absolute;
    top: 50%;
    left: 9px;
    width: 26px;
    height: 26px;
    border: 1px solid #25221d;
    background: #fcfaf5;
    transform: translateY(-50%) rotate(45deg);
  }

  &[data-focus-visible] {
    outline: none;
  }

  &[data-focus-visible]::after {
    background: ${color.on};
  }
`;

interface DividerLineProps {
  readonly label: string;
  /** As a share of the width, 0..100. */
  readonly place: number;
  onPlace(place: number): void;
}

export function DividerLine({ label, place, onPlace }: DividerLineProps): ReactElement {
  return (
    <Scale
      aria-label={label}
      minValue={0}
      maxValue={100}
      step={0.5}
      value={place}
      onChange={(next) => onPlace(next as number)}
    >
      <Track>
        <Line />
      </Track>
    </Scale>
  );
}
