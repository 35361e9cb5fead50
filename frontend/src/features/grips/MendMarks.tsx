/** What is being mended: the brush's ring, where it goes, and the place that is open. */

import type { ReactElement } from "react";
import { SizeRing, Trace } from "@/features/grips/BrushRing";
import { listed, Outline } from "@/features/grips/gripParts";
import type { Composite, MendedLayer } from "@/model/composite";
import { mendsLying, openMend } from "@/model/mends";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";
import { useMending } from "@/state/mending";

interface MendMarksProps {
  readonly composite: Composite;
  readonly layer: MendedLayer;
  readonly view: StageView;
}

const STEPS = 36;

export function MendMarks({ composite, layer, view }: MendMarksProps): ReactElement {
  const { size, trace } = useMending();
  const place = useDesk((desk) => openMend(layer, desk.line));
  const open = place === null ? undefined : layer.mends[place];
  const lying = mendsLying(composite, layer);
  const seen = (x: number, y: number) => canvasToStage(view, lying.toCanvas({ x, y }));
  const drawn = trace.map((at) => canvasToStage(view, at));
  return (
    <g data-testid="mend-marks">
      {open && open.points.length > 1 ? (
        <Outline points={open.points.map(([x, y]) => seen(x, y))} />
      ) : null}
      {open?.points.length === 1
        ? open.points.map(([x, y]) => (
            <Outline
              key="ring"
              isClosed
              points={Array.from({ length: STEPS }, (_, step) => {
                const angle = (2 * Math.PI * step) / STEPS;
                const far = open.size / 2;
                return seen(x + Math.cos(angle) * far, y + Math.sin(angle) * far);
              })}
            />
          ))
        : null}
      {drawn.length > 0 ? (
        <Trace
          data-shows={true}
          points={listed(drawn)}
          strokeWidth={Math.max(size * view.scale, 1)}
        />
      ) : null}
      <SizeRing view={view} size={size} breaks={false} />
    </g>
  );
}
