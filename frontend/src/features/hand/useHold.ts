/** A press that stays where it is for a while. */

import { type PointerEvent, useRef } from "react";
import type { Point } from "@/model/points";

const HOLD_MS = 450;
/** A hand shakes: less than this many CSS pixels is no move. */
export const SLACK = 3;

export interface Hold {
  begin(event: PointerEvent<Element>): void;
  move(event: PointerEvent<Element>): void;
  end(): void;
}

/** Tell of a press that stays where it is for a while. */
export function useHold(onHold: (at: Point) => void): Hold {
  const pressed = useRef<{ readonly at: Point; readonly timer: number } | null>(null);
  const end = () => {
    if (pressed.current) window.clearTimeout(pressed.current.timer);
    pressed.current = null;
  };
  return {
    begin: (event) => {
      const at = stagePoint(event);
      const { currentTarget, pointerId } = event;
      const timer = window.setTimeout(() => {
        end();
        // What is let go over next hears of it: the hand chooses by letting go.
        if (currentTarget.hasPointerCapture(pointerId)) {
          currentTarget.releasePointerCapture(pointerId);
        }
        onHold(at);
      }, HOLD_MS);
      pressed.current = { at, timer };
    },
    move: (event) => {
      if (!pressed.current) return;
      const { x, y } = stagePoint(event);
      if (Math.hypot(x - pressed.current.at.x, y - pressed.current.at.y) > SLACK) end();
    },
    end,
  };
}

/** Return where a pointer is on the stage, in CSS pixels. */
export function stagePoint(event: PointerEvent<Element>): Point {
  const box = event.currentTarget.getBoundingClientRect();
  return { x: event.clientX - box.left, y: event.clientY - box.top };
}
