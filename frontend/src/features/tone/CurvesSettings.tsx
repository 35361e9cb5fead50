/** Curves: points dragged on the line, over the histogram. */

import {
  type KeyboardEvent,
  type PointerEvent,
  type ReactElement,
  type RefObject,
  useRef,
  useState,
} from "react";
import styled from "styled-components";
import { ChannelChoice } from "@/features/tone/ChannelChoice";
import { HistogramShapes, HistogramWords } from "@/features/tone/Histogram";
import type { Setting } from "@/features/tone/useSetting";
import {
  type CurvePoint,
  curveHeights,
  withMovedPoint,
  withoutPoint,
  withPoint,
} from "@/model/curves";
import { type CurvePoints, MOST_POINTS, STRAIGHT } from "@/model/tones";
import { useToning } from "@/state/toning";
import { color } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { NumberGrid } from "@/ui/NumberGrid";

const SIDE = 255;
const STEPS = 128;
/** How near the pointer takes a point, of the side. */
const NEAR = 0.05;
/** A point that is pulled so far out of the box is let go. */
const OUT = 0.12;

const Box = styled.div`
  position: relative;
  aspect-ratio: 1.35;
  background: ${color.paper};
  border: 1px solid ${color.ruleStrong};
  cursor: crosshair;
  touch-action: none;
`;

const Drawn = styled.svg`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: visible;
`;

const Line = styled.path`
  fill: none;
  stroke: ${color.live};
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
`;

const Rule = styled.path`
  stroke: ${color.rule};
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
`;

const Peg = styled.button`
  position: absolute;
  width: 24px;
  height: 24px;
  margin: -12px;
  padding: 0;
  border: 0;
  border-radius: 50%;
  background: none;
  cursor: grab;

  &::before {
    content: "";
    position: absolute;
    inset: 7px;
    border: 2px solid ${color.live};
    background: ${color.sheet};
    transform: rotate(45deg);
  }

  &[data-chosen="true"]::before {
    background: ${color.live};
  }
`;

interface CurvesSettingsProps {
  readonly setting: Setting<"curves">;
}

export function CurvesSettings({ setting }: CurvesSettingsProps): ReactElement {
  const channel = useToning((toning) => toning.channel);
  const points = setting.tone[channel];
  const [chosen, setChosen] = useState<number | null>(null);
  const set = (next: CurvePoints) => ({ [channel]: next });
  const point = chosen === null ? undefined : points[chosen];
  return (
    <>
      <ChannelChoice />
      <CurveBox
        points={points}
        chosen={chosen}
        onChoose={setChosen}
        onPreview={(next) => setting.preview(set(next))}
        onTake={(next) => setting.take(set(next))}
      />
      <HistogramWords />
      {point && chosen !== null ? (
        <NumberGrid numbers={pointNumbers(points, chosen, (next) => setting.take(set(next)))} />
      ) : null}
      <p>
        Press on the line for a new point. With Alt held, press on the picture and drag up or down:
        the curve moves where that tone lies.
      </p>
      {JSON.stringify(points) === JSON.stringify(STRAIGHT) ? null : (
        <PlainButton
          onPress={() => {
            setChosen(null);
            setting.take(set(STRAIGHT));
          }}
        >
          Straight again
        </PlainButton>
      )}
    </>
  );
}

function pointNumbers(points: CurvePoints, place: number, onTake: (next: CurvePoints) => void) {
  const [x, y] = points[place] ?? [0, 0];
  const limits = { minimum: 0, maximum: SIDE };
  const numbers = [
    { label: "From", value: x, at: (next: number): CurvePoint => [next, y] },
    { label: "To", value: y, at: (next: number): CurvePoint => [x, next] },
  ];
  return numbers.map(({ label, value, at }) => ({
    label,
    value: Math.round(value * SIDE),
    limits,
    unit: "",
    onChange: (next: number) => onTake(withMovedPoint(points, place, at(next / SIDE))),
  }));
}

interface CurveBoxProps {
  readonly points: CurvePoints;
  readonly chosen: number | null;
  onChoose(place: number | null): void;
  onPreview(points: CurvePoints): void;
  onTake(points: CurvePoints): void;
}

interface Drag {
  readonly points: CurvePoints;
  readonly place: number;
}

function CurveBox(props: CurveBoxProps): ReactElement {
  const { points, chosen, onChoose, onTake } = props;
  const box = useRef<HTMLDivElement>(null);
  const hand = useHand(props, box);
  const onKey = (event: KeyboardEvent, place: number) => {
    const next = keyed(points, place, event);
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    if (next.length < points.length) onChoose(null);
    onTake(next);
  };
  return (
    <Box ref={box} role="group" aria-label="The curve" {...hand}>
      <CurveLine points={points} />
      {points.map(([x, y], place) => (
        <Peg
          // A point is known by its place alone.
          // biome-ignore lint/suspicious/noArrayIndexKey: see above
          key={place}
          type="button"
          data-chosen={place === chosen}
          aria-label={`Point from ${Math.round(x * SIDE)} to ${Math.round(y * SIDE)}`}
          style={{ left: `${x * 100}%`, top: `${(1 - y) * 100}%` }}
          onFocus={() => onChoose(place)}
          onKeyDown={(event) => onKey(event, place)}
        />
      ))}
    </Box>
  );
}

function CurveLine({ points }: { readonly points: CurvePoints }): ReactElement {
  const line = curveHeights(points, STEPS).map(
    (y, step) => `${((step / STEPS) * SIDE).toFixed(1)} ${((1 - y) * SIDE).toFixed(1)}`,
  );
  return (
    <Drawn viewBox={`0 0 ${SIDE} ${SIDE}`} preserveAspectRatio="none" aria-hidden="true">
      <HistogramShapes height={SIDE} />
      <Rule d={`M0 ${SIDE}L${SIDE} 0`} />
      <Line d={`M${line.join("L")}`} />
    </Drawn>
  );
}

/** Return what the pointer does: takes a point, or sets a new one, and leads it. */
function useHand(
  { points, onChoose, onPreview, onTake }: CurveBoxProps,
  box: RefObject<HTMLDivElement | null>,
) {
  const drag = useRef<Drag | null>(null);
  const led = useRef(points);
  const end = () => {
    if (!drag.current) return;
    if (led.current.length < drag.current.points.length) onChoose(null);
    drag.current = null;
    onTake(led.current);
  };
  return {
    onPointerDown: (event: PointerEvent) => {
      if (event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      const begun = begunAt(points, placeIn(box.current, event));
      if (!begun) return;
      drag.current = begun;
      led.current = begun.points;
      onChoose(begun.place);
      if (begun.points !== points) onPreview(begun.points);
    },
    onPointerMove: (event: PointerEvent) => {
      if (!drag.current) return;
      led.current = goneOn(drag.current, placeIn(box.current, event));
      onPreview(led.current);
    },
    onPointerUp: end,
    onPointerCancel: end,
  };
}

function placeIn(box: HTMLElement | null, event: PointerEvent): CurvePoint {
  const area = box?.getBoundingClientRect();
  if (!area) return [0, 0];
  return [(event.clientX - area.left) / area.width, 1 - (event.clientY - area.top) / area.height];
}

/** Take the point that lies there, or set a new one. */
function begunAt(points: CurvePoints, [x, y]: CurvePoint): Drag | null {
  const near = points.findIndex(([px, py]) => Math.hypot(px - x, py - y) < NEAR);
  if (near >= 0) return { points, place: near };
  const next = withPoint(points, [x, y], MOST_POINTS);
  const place = next.findIndex(([px]) => px === x);
  return place < 0 ? null : { points: next, place };
}

/** Return the points with the one that is led elsewhere, or without it, far outside. */
function goneOn({ points, place }: Drag, [x, y]: CurvePoint): CurvePoints {
  const left = y < -OUT || y > 1 + OUT ? withoutPoint(points, place) : points;
  return left.length < points.length ? left : withMovedPoint(points, place, [x, y]);
}

const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** Return the points after a key; null where the key means nothing. */
function keyed(points: CurvePoints, place: number, event: KeyboardEvent): CurvePoints | null {
  if (event.key === "Delete" || event.key === "Backspace") return withoutPoint(points, place);
  const move = MOVES[event.key];
  const [x, y] = points[place] ?? [0, 0];
  if (!move) return null;
  const step = (event.shiftKey ? 10 : 1) / SIDE;
  return withMovedPoint(points, place, [x + move[0] * step, y + move[1] * step]);
}
