/** Numbers side by side, each with its words. */

import type { ReactElement, ReactNode } from "react";
import styled from "styled-components";
import { between, NumberBox } from "@/ui/NumberBox";

export interface NumberOfGrid {
  readonly label: string;
  readonly value: number;
  readonly limits: { readonly minimum: number; readonly maximum: number };
  /** Pixels where it says nothing. */
  readonly unit?: string;
  onChange(value: number): void;
}

const Pairs = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 10px;
`;

/** Three that belong together: their words stand above them. */
const Trio = styled(Pairs)`
  grid-template-columns: repeat(3, minmax(0, 1fr));

  > * {
    flex-direction: column;
    align-items: stretch;
    gap: 2px;
  }
`;

interface NumberGridProps {
  readonly numbers: readonly NumberOfGrid[];
  readonly isDisabled?: boolean;
  /** What stands after the last number. */
  readonly children?: ReactNode;
}

/** Show numbers to a tenth, which is as exact as a hand needs. */
export function NumberGrid(props: NumberGridProps): ReactElement {
  const { numbers, isDisabled = false, children } = props;
  const Grid = numbers.length === 3 ? Trio : Pairs;
  return (
    <Grid>
      {numbers.map(({ label, value, limits, unit = "px", onChange }) => (
        <NumberBox
          key={label}
          {...between(limits)}
          label={label}
          value={Math.round(value * 10) / 10}
          digits={1}
          step={0.1}
          unit={unit}
          isDisabled={isDisabled}
          onChange={onChange}
        />
      ))}
      {children}
    </Grid>
  );
}
