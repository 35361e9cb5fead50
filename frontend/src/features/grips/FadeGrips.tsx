/** The open fade on the stage: where it is full, where it is gone, to be dragged. */

import type { ReactElement } from "react";
import { Bar, Hold, Middle, Outline, Plate } from "@/features/grips/gripParts";
import type { Fade } from "@/model/composite";
import { type FadeGrip, fadeGrips, pointAt } from "@/model/fades";
import type { Lying } from "@/model/lying";
import type { Point } from "@/model/points";
import { canvasToStage, type StageView } from "@/model/viewing";

const REACH = 15;
const KNOB = 5.5;
const BAR = 92;
const SIDE_BAR = 26;
const STEPS = 72;
const NAMES: [string, string] = ["Full here", "Gone here"];

interface FadeGripsProps {
  readonly fade: Fade;
  readonly lying: Lying;
  readonly view: StageView;
  readonly isLocked: boolean;
}

export function FadeGrips({ fade, lying, view, isLocked }: FadeGripsProps): ReactElement {
  const seen = (own: Point) => canvasToStage(view, lying.toCanvas(own));
  const grips = fadeGrips(fade);
  const [full, gone, middle, side] = (["full", "gone", "middle", "side"] as const).map((grip) =>
    seen(grips[grip]),
  ) as [Point, Point, Point, Point];
  const isLine = fade.shape === "line";
  const isRing = fade.shape === "round" || fade.shape === "sides";
  const [fullName, goneName] = fade.inward ? ([NAMES[1], NAMES[0]] as const) : NAMES;
  return (
    <g data-testid="fade-grips">
      <Outline points={[isLine ? full : middle, gone]} />
      {isRing ? <Rings fade={fade} seen={seen} /> : null}
      {isLocked ? null : (
        <>
          <Middle data-grip="middle" cx={middle.x} cy={middle.y} r={KNOB} />
          {isLine || fade.full > 0 ? (
            <End at={full} towards={gone} grip="full" name={fullName} />
          ) : null}
          <End at={gone} towards={middle} grip="gone" name={goneName} />
          {isRing ? <Side at={side} middle={middle} /> : null}
        </>
      )}
    </g>
  );
}

interface RingsProps {
  readonly fade: Fade;
  seen(own: Point): Point;
}

function Rings({ fade, seen }: RingsProps): ReactElement {
  return (
    <>
      <Outline points={ringOf(fade, 1).map(seen)} isClosed />
      {fade.full > 0 ? (
        <Outline points={ringOf(fade, fade.full).map(seen)} isClosed isFaint />
      ) : null}
    </>
  );
}

function Side({ at, middle }: { readonly at: Point; readonly middle: Point }): ReactElement {
  return (
    <>
      <Bar at={at} along={direction(middle, at)} length={SIDE_BAR} />
      <Hold data-grip="side" cx={at.x} cy={at.y} r={REACH} />
    </>
  );
}

interface EndProps {
  readonly at: Point;
  readonly towards: Point;
  readonly grip: FadeGrip;
  readonly name: string;
}

function End({ at, towards, grip, name }: EndProps): ReactElement {
  return (
    <>
      <Bar at={at} along={direction(at, towards)} length={BAR} />
      <Plate at={{ x: at.x, y: at.y + BAR / 2 + 14 }}>{name}</Plate>
      <Hold data-grip={grip} cx={at.x} cy={at.y} r={REACH} />
    </>
  );
}

/** The outline at a share of a fade's reach, in its own positions. */
function ringOf(fade: Fade, share: number): Point[] {
  if (fade.shape === "sides") {
    // What is full ends as far from every side.
    const inset = (1 - share) * Math.min(1, fade.aspect);
    const [along, beside] = [1 - inset, fade.aspect - inset];
    return [
      pointAt(fade, -along, -beside),
      pointAt(fade, along, -beside),
      pointAt(fade, along, beside),
      pointAt(fade, -along, beside),
    ];
  }
  return Array.from({ length: STEPS }, (_, step) => {
    const angle = (2 * Math.PI * step) / STEPS;
    return pointAt(fade, share * Math.cos(angle), share * fade.aspect * Math.sin(angle));
  });
}

/** Degrees from one point to another. */
function direction(from: Point, to: Point): number {
  return (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;
}
