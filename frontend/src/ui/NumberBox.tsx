/** A number that is typed or nudged with the arrow keys. */

import type { ReactElement } from "react";
import { Group, Input, Label, NumberField } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";

interface NumberBoxProps {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly step: number;
  readonly unit?: string;
  readonly digits?: number;
  readonly hideLabel?: boolean;
  readonly isDisabled?: boolean;
  onChange(value: number): void;
}

const Field = styled(NumberField)`
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
`;

const Words = styled(Label)`
  flex: none;
  color: ${color.softInk};
`;

const Box = styled(Group)`
  display: flex;
  align-items: center;
  flex: 1;
  min-width: 0;
  padding-right: 8px;
  border: 1px solid ${color.rule};
  border-radius: 2px;
  background: ${color.sheet};
  color: ${color.softInk};

  &[data-focus-within] {
    border-color: ${color.on};
  }

  &[data-disabled] {
    opacity: 0.5;
  }
`;

const Digits = styled(Input)`
  flex: 1;
  min-width: 0;
  width: 100%;
  padding: 4px 4px 4px 8px;
  border: 0;
  background: none;
  color: ${color.ink};
  text-align: right;
  font-variant-numeric: tabular-nums;
  outline: none;
`;

/** Return the limits of the service as a box takes them. */
export function between(limits: { readonly minimum: number; readonly maximum: number }): {
  readonly min: number;
  readonly max: number;
} {
  return { min: limits.minimum, max: limits.maximum };
}

export function NumberBox(props: NumberBoxProps): ReactElement {
  const { label, value, min, max, step, unit = "", digits = 0, hideLabel = false } = props;
  return (
    <Field
      {...(hideLabel ? { "aria-label": label } : {})}
      value={value}
      minValue={min}
      maxValue={max}
      step={step}
      isDisabled={props.isDisabled ?? false}
      formatOptions={{ maximumFractionDigits: digits, useGrouping: false }}
      onChange={(next) => {
        if (Number.isFinite(next) && next !== value) props.onChange(next);
      }}
    >
      {hideLabel ? null : <Words>{label}</Words>}
      <Box>
        <Digits />
        {unit ? <span aria-hidden="true">{unit}</span> : null}
      </Box>
    </Field>
  );
}
