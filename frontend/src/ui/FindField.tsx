/** A field for words to search by. */

import type { ReactElement } from "react";
import { Input, SearchField } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";

const Words = styled(Input)<{ $width: number }>`
  width: ${({ $width }) => $width}px;
  padding: 6px 2px;
  border: 0;
  border-bottom: 1px solid ${color.ink};
  background: none;
  outline: none;

  &[data-focused] {
    border-bottom-color: ${color.on};
    box-shadow: 0 1px 0 ${color.on};
  }
`;

interface FindFieldProps {
  readonly label: string;
  readonly width: number;
  readonly value: string;
  onChange(value: string): void;
}

export function FindField({ label, width, value, onChange }: FindFieldProps): ReactElement {
  return (
    <SearchField aria-label={label} value={value} onChange={onChange}>
      <Words $width={width} placeholder={`${label}…`} />
    </SearchField>
  );
}
