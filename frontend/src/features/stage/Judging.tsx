/** The open layer left out now and then, or on one side of a line, so that eyes can judge. */

import {
  type KeyboardEvent,
  type ReactElement,
  type SyntheticEvent,
  useEffect,
  useRef,
} from "react";
import styled from "styled-components";
import { useFrames } from "@/features/stage/useFrames";
import type { Layer } from "@/model/composite";
import { useJudging } from "@/state/judging";
import { DividerLine } from "@/ui/DividerLine";

/** Slow enough to see each, and far below what could harm anybody. */
const BLINK_MS = 700;

const Side = styled.canvas`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
`;

const Over = styled.div`
  position: absolute;
  inset: 0;
  pointer-events: none;
`;

/** Leave the open layer out and show it again, for as long as that is wanted. */
export function useBlinking(): void {
  const isBlinking = useJudging((judging) => judging.aid === "blink");
  useEffect(() => {
    if (!isBlinking) return undefined;
    const timer = setInterval(useJudging.getState().blink, BLINK_MS);
    return () => clearInterval(timer);
  }, [isBlinking]);
}

/** On the right of a line the open layer is left out. */
export function StageDivider({ layer }: { readonly layer: Layer }): ReactElement {
  const { divider, setDivider } = useJudging();
  const surface = useRef<HTMLCanvasElement>(null);
  useFrames(surface, true);
  // The stage takes no layer by a press on the line, and moves none by its keys.
  const keep = (event: SyntheticEvent) => event.stopPropagation();
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "Escape") useJudging.getState().setAid(null);
    event.stopPropagation();
  };
  return (
    <>
      <Side
        ref={surface}
        aria-hidden="true"
        data-testid="without"
        style={{ clipPath: `inset(0 0 0 ${divider}%)` }}
      />
      <Over onPointerDown={keep} onKeyDown={onKeyDown}>
        <DividerLine
          label={`Divider: with ${layer.name} on its left, without it on its right`}
          place={divider}
          onPlace={setDivider}
        />
      </Over>
    </>
  );
}
