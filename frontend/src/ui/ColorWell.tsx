/** A colour that opens the browser's own chooser. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { color } from "@/theme/tokens";

interface ColorWellProps {
  readonly label: string;
  readonly value: string;
  onChange(value: string): void;
}

const Well = styled.input`
  width: 34px;
  height: 26px;
  padding: 2px;
  border: 1px solid ${color.ruleStrong};
  border-radius: 2px;
  background: ${color.sheet};
  cursor: pointer;
`;

export function ColorWell({ label, value, onChange }: ColorWellProps): ReactElement {
  return (
    <Well
      type="color"
      aria-label={label}
      title={label}
      value={value}
      onChange={(event) => onChange(event.currentTarget.value)}
    />
  );
}
