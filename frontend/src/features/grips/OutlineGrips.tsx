/** Outlines on the stage: as they are drawn, and by their corners afterwards. */

import { type ReactElement, useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { Hold, Middle, Outline } from "@/features/grips/gripParts";
import { middleOf, NEAR, type OutlinePart } from "@/model/drawing";
import type { Lying } from "@/model/lying";
import type { Point } from "@/model/points";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useDrawing } from "@/state/drawing";

const KNOB = 5.5;
const DOT = 3.5;
/** With more corners than this, each is drawn small: they would hide the picture. */
const MANY = 60;

const First = styled.circle`
  fill: none;
  stroke: #fbf9f3;
  stroke-width: 1.5;
  pointer-events: none;
`;

interface OutlineGripsProps {
  readonly part: OutlinePart;
  readonly lying: Lying;
  readonly view: StageView;
  readonly isLocked: boolean;
}

export function OutlineGrips({ part, lying, view, isLocked }: OutlineGripsProps): ReactElement {
  const seen = (own: Point) => canvasToStage(view, lying.toCanvas(own));
  const corners = part.points.map(([x, y]) => seen({ x, y }));
  const middle = seen(middleOf(part));
  return (
    <g data-testid="outline-grips">
      <Outline points={corners} isClosed />
      {isLocked ? null : (
        <>
          <Middle data-grip="middle" cx={middle.x} cy={middle.y} r={KNOB} />
          {corners.map(({ x, y }, place) => (
            // A corner is known by its place alone.
            // biome-ignore lint/suspicious/noArrayIndexKey: see above
            <g key={place}>
              <Middle cx={x} cy={y} r={corners.length > MANY ? DOT - 1 : DOT} />
              <Hold data-grip={`corner-${place}`} cx={x} cy={y} r={NEAR} />
            </g>
          ))}
        </>
      )}
    </g>
  );
}

/** The corners so far, and the line to where the pointer is. */
export function OutlineDrawn({ view }: { readonly view: StageView }): ReactElement {
  const corners = useDrawing((drawing) => drawing.corners).map((at) => canvasToStage(view, at));
  const group = useRef<SVGGElement>(null);
  const pointer = usePointerOnStage(group);
  const [first] = corners;
  return (
    <g ref={group} data-testid="outline-drawn">
      <Outline points={corners} />
      {pointer && corners.length > 0 ? (
        <Outline points={[...corners.slice(-1), pointer]} isFaint />
      ) : null}
      {first && corners.length > 2 ? <First cx={first.x} cy={first.y} r={NEAR} /> : null}
      {corners.length > MANY
        ? null
        : corners.map(({ x, y }, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: known by its place alone
            <Middle key={place} cx={x} cy={y} r={DOT} pointerEvents="none" />
          ))}
    </g>
  );
}

/** Return where the pointer is over the stage that an element lies in. */
function usePointerOnStage(element: { readonly current: Element | null }): Point | null {
  const [at, setAt] = useState<Point | null>(null);
  useEffect(() => {
    const stage = element.current?.closest("[data-stage]");
    if (!stage) return;
    const follow = (event: Event) => {
      if (!(event instanceof PointerEvent)) return;
      const box = stage.getBoundingClientRect();
      setAt({ x: event.clientX - box.left, y: event.clientY - box.top });
    };
    const leave = () => setAt(null);
    stage.addEventListener("pointermove", follow);
    stage.addEventListener("pointerleave", leave);
    return () => {
      stage.removeEventListener("pointermove", follow);
      stage.removeEventListener("pointerleave", leave);
    };
  }, [element]);
  return at;
}

interface SpotsProps {
  readonly spots: readonly Point[];
  readonly view: StageView;
}

/** Where an even colour was clicked. */
export function Spots({ spots, view }: SpotsProps): ReactElement {
  return (
    <g data-testid="spots">
      {spots.map((at, place) => {
        const { x, y } = canvasToStage(view, at);
        // biome-ignore lint/suspicious/noArrayIndexKey: known by its place alone
        return <Middle key={place} cx={x} cy={y} r={DOT} pointerEvents="none" />;
      })}
    </g>
  );
}
