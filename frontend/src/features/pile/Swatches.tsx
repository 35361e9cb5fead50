/** A few colours to take with one press. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { color } from "@/theme/tokens";

const Row = styled.div`
  display: flex;
  gap: 4px;
`;

const Swatch = styled.button`
  width: 26px;
  height: 26px;
  padding: 0;
  border: 1px solid ${color.ruleStrong};
  border-radius: 50%;
  cursor: pointer;

  &[aria-pressed="true"] {
    outline: 2px solid ${color.on};
    outline-offset: 1px;
  }
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
    <Row role="group" aria-label={props.label}>
      {props.colors.map((one) => (
        <Swatch
          key={one}
          type="button"
          aria-label={`${props.label}: ${one}`}
          title={one}
          aria-pressed={one === props.chosen}
          disabled={props.isDisabled}
          style={{ background: one }}
          onClick={() => props.onTake(one)}
        />
      ))}
    </Row>
  );
}
