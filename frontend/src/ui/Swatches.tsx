/** A few colours to take with one press. */

import type { ReactElement } from "react";
import { ColorSwatch, ColorSwatchPicker, ColorSwatchPickerItem } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";

const Row = styled(ColorSwatchPicker)`
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
`;

const Item = styled(ColorSwatchPickerItem)`
  border-radius: 50%;
  cursor: pointer;
  outline: none;

  &[data-selected],
  &[data-focus-visible] {
    outline: 2px solid ${color.on};
    outline-offset: 1px;
  }

  &[data-disabled] {
    opacity: 0.5;
    cursor: default;
  }
`;

const Swatch = styled(ColorSwatch)`
  width: 26px;
  height: 26px;
  border: 1px solid ${color.ruleStrong};
  border-radius: 50%;
`;

interface SwatchesProps {
  readonly label: string;
  readonly colors: readonly string[];
  readonly chosen: string;
  readonly isDisabled: boolean;
  onTake(color: string): void;
}

export function Swatches(props: SwatchesProps): ReactElement {
  return (
    <Row
      aria-label={props.label}
      value={props.chosen}
      onChange={(taken) => props.onTake(taken.toString("hex").toLowerCase())}
    >
      {[...new Set(props.colors)].map((one) => (
        <Item key={one} color={one} isDisabled={props.isDisabled}>
          <Swatch aria-label={one} />
        </Item>
      ))}
    </Row>
  );
}
