/** A note in the margin. */

import type { ReactElement, ReactNode } from "react";
import styled from "styled-components";
import { color, font } from "@/theme/tokens";

const Note = styled.p`
  padding-left: 12px;
  border-left: 3px solid ${color.rule};
  font-family: ${font.reading};
  font-size: 15.5px;

  &[data-urgent="true"] {
    border-color: ${color.live};
  }
`;

interface SaidProps {
  readonly isUrgent?: boolean;
  /** Whether it is told at once to those who do not see it. */
  readonly isAlert?: boolean;
  readonly children: ReactNode;
}

export function Said({ isUrgent = false, isAlert = false, children }: SaidProps): ReactElement {
  return (
    <Note data-urgent={isUrgent} role={isAlert ? "alert" : undefined}>
      {children}
    </Note>
  );
}
