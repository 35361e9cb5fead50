/** The picture without the open layer, over the right of the stage. */

import { type ReactElement, useRef } from "react";
import styled from "styled-components";
import { useFrames } from "@/features/picture/useFrames";

const Side = styled.canvas`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
`;

/** Show it from so many hundredths of the stage's width on. */
export function Without({ from }: { readonly from: number }): ReactElement {
  const surface = useRef<HTMLCanvasElement>(null);
  useFrames(surface, true);
  return (
    <Side
      ref={surface}
      aria-hidden="true"
      data-testid="without"
      style={{ clipPath: `inset(0 0 0 ${from}%)` }}
    />
  );
}
