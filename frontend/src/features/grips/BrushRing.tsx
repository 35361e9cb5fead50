/** The brush under the pointer at its true size, and the trace of the stroke. */

import { type ReactElement, useEffect, useRef } from "react";
import styled, { css } from "styled-components";
import { listed } from "@/features/grips/gripParts";
import type { Composite, Layer } from "@/model/composite";
import { maskLying } from "@/model/lying";
import { EMPTY_MASK } from "@/model/masks";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useBrush } from "@/state/brush";
import { useDesk } from "@/state/desk/desk";

/** A pale line on a dark one of its own: it is seen on any picture. */
export const seenAnywhere = css`
  fill: none;
  stroke: #fbf9f3;
  stroke-width: 1.5;
  pointer-events: none;

  &[data-shade="true"] {
    stroke: rgb(0 0 0 / 60%);
    stroke-width: 3.2;
  }
`;

const Ring = styled.circle`
  ${seenAnywhere}

  /* What hides is told by broken lines, not by a colour. */
  &[data-hides="true"] {
    stroke-dasharray: 9 4;
  }

  &[data-inner="true"] {
    stroke-width: 1.2;
    stroke-dasharray: 1 4;
    stroke-linecap: round;
  }
`;

/** Where a stroke goes: pale where it shows or keeps, violet where it hides or drops. */
export const Trace = styled.polyline`
  fill: none;
  stroke: rgb(91 63 166 / 45%);
  stroke-linecap: round;
  stroke-linejoin: round;
  pointer-events: none;

  &[data-shows="true"] {
    stroke: rgb(251 249 243 / 45%);
  }
`;

export function BrushRing({ view }: { readonly view: StageView }): ReactElement {
  const { size, softness, shows } = useBrush();
  return <SizeRing view={view} size={size} softness={softness} breaks={!shows} />;
}

interface SizeRingProps {
  readonly view: StageView;
  /** Pixels of the canvas. */
  readonly size: number;
  readonly softness?: number;
  /** Whether its line is broken: it takes away. */
  readonly breaks: boolean;
}

/** A ring of the brush's size that follows the pointer. */
export function SizeRing({ view, size, softness = 0, breaks }: SizeRingProps): ReactElement {
  const ring = useRef<SVGGElement>(null);
  useEffect(() => {
    const stage = ring.current?.closest("[data-stage]");
    if (!stage) return;
    const follow = (event: Event) => {
      const drawn = ring.current;
      if (!drawn || !(event instanceof PointerEvent)) return;
      const box = stage.getBoundingClientRect();
      const [x, y] = [event.clientX - box.left, event.clientY - box.top];
      drawn.setAttribute("transform", `translate(${x} ${y})`);
      drawn.style.visibility = event.type === "pointerleave" ? "hidden" : "visible";
    };
    const heard = ["pointermove", "pointerdown", "pointerleave"];
    for (const name of heard) stage.addEventListener(name, follow);
    return () => {
      for (const name of heard) stage.removeEventListener(name, follow);
    };
  }, []);
  const radius = Math.max((size * view.scale) / 2, 1);
  return (
    <g ref={ring} data-testid="brush-ring" style={{ visibility: "hidden" }}>
      <Ring data-shade="true" r={radius} />
      <Ring data-hides={breaks} r={radius} />
      {softness > 0 && softness < 1 ? <Ring data-inner="true" r={radius * (1 - softness)} /> : null}
    </g>
  );
}

interface StrokeTraceProps {
  readonly composite: Composite;
  readonly layer: Layer;
  readonly view: StageView;
}

export function StrokeTrace({ composite, layer, view }: StrokeTraceProps): ReactElement | null {
  const live = useDesk((desk) => desk.live);
  const size = useBrush((brush) => brush.size);
  if (live?.kind !== "paint_stroke" || !live.stroke) return null;
  const lying = maskLying(composite, layer, layer.mask ?? EMPTY_MASK);
  const points = live.stroke.points.map(([x, y]) => canvasToStage(view, lying.toCanvas({ x, y })));
  return (
    <Trace
      data-shows={live.stroke.shows}
      points={listed(points)}
      strokeWidth={Math.max(size * view.scale, 1)}
    />
  );
}
