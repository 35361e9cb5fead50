/** The picture on the stage: drawn anew by itself while a hand moves something. */

import { type ReactElement, useRef } from "react";
import styled from "styled-components";
import { useFrames } from "@/features/picture/useFrames";

const Surface = styled.canvas`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
`;

interface PictureProps {
  /** Whether it is shown without the open layer. */
  readonly isOut: boolean;
}

export function Picture({ isOut }: PictureProps): ReactElement {
  const surface = useRef<HTMLCanvasElement>(null);
  useFrames(surface, isOut);
  return <Surface ref={surface} aria-hidden="true" data-testid="surface" />;
}
