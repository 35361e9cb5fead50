/** Pins on matched points of two photos, and a glass that enlarges what is pointed at. */

import { type ReactElement, useEffect, useRef } from "react";
import styled from "styled-components";
import { type Composite, layerById } from "@/model/composite";
import { toCanvas } from "@/model/geometry";
import { onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useMatching } from "@/state/matching";
import { color, font } from "@/theme/tokens";

const Pin = styled.g`
  pointer-events: none;

  circle {
    fill: none;
    stroke: ${color.live};
    stroke-width: 2;
  }

  [data-shade="true"] {
    stroke: #fbf9f3;
    stroke-width: 4;
  }

  &[data-of="fixed"] circle {
    stroke-dasharray: 4 3;
  }

  text {
    fill: #25221d;
    stroke: #fbf9f3;
    stroke-width: 3.5;
    paint-order: stroke;
    font-family: ${font.control};
    font-size: 13px;
  }
`;

interface MatchPinsProps {
  readonly composite: Composite;
  readonly view: StageView;
}

export function MatchPins({ composite, view }: MatchPinsProps): ReactElement | null {
  const { layers, pairs } = useMatching();
  if (!layers) return null;
  const seen = (id: string, at: Point | null) => {
    const layer = layerById(composite, id);
    if (layer?.kind !== "photo" || !at) return null;
    return canvasToStage(view, toCanvas(onCanvas(composite, layer), at));
  };
  return (
    <g data-testid="match-pins">
      {pairs.flatMap((pair, place) =>
        (["moving", "fixed"] as const).map((which) => {
          const at = seen(layers[which], pair[which]);
          return at ? (
            // biome-ignore lint/suspicious/noArrayIndexKey: a pair has no other name
            <Pin key={`${which}${place}`} data-of={which}>
              <circle data-shade="true" cx={at.x} cy={at.y} r={8} />
              <circle cx={at.x} cy={at.y} r={8} />
              <text x={at.x + 11} y={at.y - 7}>
                {place + 1}
              </text>
            </Pin>
          ) : null;
        }),
      )}
    </g>
  );
}

const GLASS = 132;
const LARGER = 4;

const Glass = styled.canvas`
  position: absolute;
  display: none;
  border: 2px solid #fbf9f3;
  border-radius: 50%;
  box-shadow: 0 0 0 1px #25221d;
  pointer-events: none;
`;

/** What lies under the hand, enlarged, beside it. */
export function MatchGlass(): ReactElement | null {
  const isOn = useMatching(({ layers }) => layers !== null);
  const glass = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!isOn) return;
    const onMove = (event: globalThis.PointerEvent) => magnify(glass.current, event);
    window.addEventListener("pointermove", onMove);
    return () => window.removeEventListener("pointermove", onMove);
  }, [isOn]);
  if (!isOn) return null;
  return <Glass ref={glass} width={GLASS} height={GLASS} aria-hidden="true" data-testid="glass" />;
}

function magnify(glass: HTMLCanvasElement | null, event: globalThis.PointerEvent): void {
  const surface = document.querySelector<HTMLCanvasElement>("[data-testid=surface]");
  const pen = glass?.getContext("2d");
  if (!glass || !surface || !pen) return;
  const box = surface.getBoundingClientRect();
  const [x, y] = [event.clientX - box.left, event.clientY - box.top];
  const isOver = x >= 0 && y >= 0 && x <= box.width && y <= box.height;
  glass.style.display = isOver ? "block" : "none";
  glass.style.left = `${x > box.width - 2 * GLASS ? x - GLASS - 28 : x + 28}px`;
  glass.style.top = `${y > box.height - 2 * GLASS ? y - GLASS - 28 : y + 28}px`;
  const dense = surface.width / box.width;
  const reach = (GLASS / LARGER) * dense;
  pen.imageSmoothingEnabled = false;
  pen.clearRect(0, 0, GLASS, GLASS);
  pen.drawImage(
    surface,
    x * dense - reach / 2,
    y * dense - reach / 2,
    reach,
    reach,
    0,
    0,
    GLASS,
    GLASS,
  );
  pen.strokeStyle = "#a8412a";
  pen.beginPath();
  pen.moveTo(GLASS / 2, GLASS / 2 - 12);
  pen.lineTo(GLASS / 2, GLASS / 2 + 12);
  pen.moveTo(GLASS / 2 - 12, GLASS / 2);
  pen.lineTo(GLASS / 2 + 12, GLASS / 2);
  pen.stroke();
}
