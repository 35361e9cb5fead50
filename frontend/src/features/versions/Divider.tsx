/** Two pictures in one place, with a line between them that is dragged across. */

import { type ReactElement, useState } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import { Print, type Seen } from "@/features/versions/Seen";
import { color } from "@/theme/tokens";

const Place = styled.div`
  position: relative;
  min-height: 0;
`;

const Over = styled.div`
  position: absolute;
  inset: 0;
`;

const Scale = styled(Slider)`
  position: absolute;
  inset: 0;
`;

const Track = styled(SliderTrack)`
  width: 100%;
  height: 100%;
  cursor: ew-resize;
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

interface DividerProps {
  readonly left: Seen;
  readonly right: Seen;
}

export function Divider({ left, right }: DividerProps): ReactElement {
  const [place, setPlace] = useState(50);
  return (
    <Place>
      <Over>
        <Print seen={right} />
      </Over>
      <Over style={{ clipPath: `inset(0 ${100 - place}% 0 0)` }}>
        <Print seen={left} />
      </Over>
      <Scale
        aria-label={`Divider: ${left.name} on its left, ${right.name} on its right`}
        minValue={0}
        maxValue={100}
        step={0.5}
        value={place}
        onChange={(next) => setPlace(next as number)}
      >
        <Track>
          <Line />
        </Track>
      </Scale>
    </Place>
  );
}
