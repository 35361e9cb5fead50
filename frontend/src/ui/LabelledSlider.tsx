/** A slider with its words and its exact number; double click sets it back. */

import { memo, type ReactElement, useCallback, useRef, useState } from "react";
import { Label, Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";
import { NumberBox } from "@/ui/NumberBox";

interface LabelledSliderProps {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  /** 1 where it is not said. */
  readonly step?: number;
  readonly unit: string;
  readonly fallback: number;
  readonly isDisabled?: boolean;
  onChange(value: number): void;
  onChangeEnd(value: number): void;
}

const Row = styled.div`
  display: grid;
  grid-template-columns: 64px 1fr 78px;
  align-items: center;
  gap: 12px;
`;

const Bare = styled(Slider)`
  display: contents;
`;

const Track = styled(SliderTrack)`
  position: relative;
  height: 24px;
  cursor: pointer;
  touch-action: none;
  /* What the thumb does stays here: without it the whole desk is laid out anew. */
  contain: layout style;

  &::before {
    content: "";
    position: absolute;
    inset: 11px 0;
    background: ${color.ink};
  }

  &[data-disabled] {
    opacity: 0.4;
    cursor: default;
  }
`;

const Thumb = styled(SliderThumb)`
  top: 12px;
  width: 10px;
  height: 18px;
  border-radius: 1px;
  background: ${color.live};
`;

/** Re-rendered only when the number itself changes: it costs more than the thumb. */
const CalmNumber = memo(NumberBox);

export function LabelledSlider(props: LabelledSliderProps): ReactElement {
  const { label, value, min, max, unit, fallback, isDisabled = false, step = 1 } = props;
  // The thumb follows the hand by itself; what it sets may be told less often.
  const [drawn, setDrawn] = useState<number | null>(null);
  const taken = useRef(props.onChangeEnd);
  taken.current = props.onChangeEnd;
  const typed = useCallback((next: number) => taken.current(next), []);
  return (
    <Row>
      <Bare
        value={drawn ?? value}
        minValue={min}
        maxValue={max}
        step={step}
        isDisabled={isDisabled}
        onChange={(next) => {
          setDrawn(next as number);
          props.onChange(next as number);
        }}
        onChangeEnd={(next) => {
          setDrawn(null);
          props.onChangeEnd(next as number);
        }}
      >
        <Label>{label}</Label>
        <Track onDoubleClick={() => props.onChangeEnd(fallback)}>
          <Thumb />
        </Track>
      </Bare>
      <CalmNumber
        label={`${label}, exact`}
        hideLabel
        value={value}
        min={min}
        max={max}
        step={step}
        digits={step < 1 ? 2 : 0}
        unit={unit}
        isDisabled={isDisabled}
        onChange={typed}
      />
    </Row>
  );
}
