/** How far something is. */

import type { ReactElement } from "react";
import { ProgressBar } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";

const Bar = styled(ProgressBar)`
  flex: 1;
  min-width: 60px;
`;

const Groove = styled.div`
  height: 4px;
  background: ${color.rule};
`;

const Fill = styled.div`
  height: 100%;
  background: ${color.on};
  transition: width 120ms linear;
`;

interface ProgressProps {
  readonly label: string;
  /** 0..1 */
  readonly share: number;
}

export function Progress({ label, share }: ProgressProps): ReactElement {
  const percent = Math.round(share * 100);
  return (
    <Bar aria-label={label} value={percent}>
      <Groove>
        <Fill style={{ width: `${percent}%` }} />
      </Groove>
    </Bar>
  );
}
