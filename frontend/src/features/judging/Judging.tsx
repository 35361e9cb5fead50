/** The open layer left out now and then, or on one side of a line, so that eyes can judge. */

import {
  type ComponentType,
  type KeyboardEvent,
  type ReactElement,
  type SyntheticEvent,
  useEffect,
} from "react";
import styled from "styled-components";
import type { Layer } from "@/model/composite";
import { useJudging } from "@/state/judging";
import { DividerLine } from "@/ui/DividerLine";

/** Slow enough to see each, and far below what could harm anybody. */
const BLINK_MS = 700;

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

interface StageDividerProps {
  readonly layer: Layer;
  /** Shows the picture without the layer, from so many hundredths of the stage on. */
  readonly Without: ComponentType<{ readonly from: number }>;
}

/** On the right of a line the open layer is left out. */
export function StageDivider({ layer, Without }: StageDividerProps): ReactElement {
  const { divider, setDivider } = useJudging();
  // The stage takes no layer by a press on the line, and moves none by its keys.
  const keep = (event: SyntheticEvent) => event.stopPropagation();
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "Escape") useJudging.getState().setAid(null);
    event.stopPropagation();
  };
  return (
    <>
      <Without from={divider} />
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
