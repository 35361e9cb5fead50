/** The hand on the stage: one pointer at a time, from its press until it is let go. */

import { type MouseEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { begun, brushNow, worksNow } from "@/features/hand/beginning";
import { type Drag, type Press, touchOf } from "@/features/hand/drag";
import { resizeHeld } from "@/features/hand/roughing";
import { isTyping } from "@/features/hand/typingTarget";
import { useHold } from "@/features/hand/useHold";
import type { Point } from "@/model/points";
import { useHelping } from "@/state/helping";
import { expectedComposite } from "@/state/project";
import { openLayer } from "@/work/commands";
import { type DeskActions, useDeskActions } from "@/work/DeskContext";
import { zoomTowards } from "@/work/zooming";

const WHEEL_ZOOM = 0.0016;
const MIDDLE_BUTTON = 1;
const SECOND_BUTTON = 2;

/** The pointer that is down, and what it drags, if anything. */
interface Held {
  readonly pointer: number;
  readonly drag: Drag | null;
}

export interface StageHandlers {
  readonly spaceHeld: boolean;
  onPointerDown(event: PointerEvent<Element>): void;
  onPointerMove(event: PointerEvent<Element>): void;
  onPointerUp(event: PointerEvent<Element>): void;
  onPointerCancel(event: PointerEvent<Element>): void;
  onLostPointerCapture(event: PointerEvent<Element>): void;
  onContextMenu(event: MouseEvent<Element>): void;
}

/**
 * Return the handlers of the stage's element; `onHold` hears of a press that stays where
 * it is, and of the menu key.
 */
export function useStagePointer(onHold: (at: Point) => void): StageHandlers {
  const desk = useDeskActions();
  const held = useRef<Held | null>(null);
  const hold = useHold((at) => {
    letGo("cancel");
    onHold(at);
  });
  const spaceHeld = useSpaceHeld();

  const letGo = (how: "end" | "cancel") => {
    hold.end();
    const drag = held.current?.drag;
    held.current = null;
    drag?.[how]();
    useHelping.getState().clear();
  };
  useCancelKey(() => {
    if (!held.current?.drag) return false;
    letGo("cancel");
    return true;
  });
  const isHeld = ({ pointerId }: PointerEvent<Element>) => held.current?.pointer === pointerId;
  const cancel = (event: PointerEvent<Element>) => {
    if (isHeld(event)) letGo("cancel");
  };
  return {
    spaceHeld,
    onPointerDown: (event) => {
      // What a hand has begun, a second finger neither bends nor takes over.
      if (held.current) return;
      const press = pressOf(event, spaceHeld, desk);
      if (!press) return;
      const { grip, pans } = press;
      const isHoldable = event.button === 0 && !pans && grip === null && !worksNow();
      held.current = { pointer: event.pointerId, drag: begun(press) };
      if (isHoldable) hold.begin(event);
    },
    onPointerMove: (event) => {
      if (!isHeld(event)) return;
      hold.move(event);
      const touch = touchOf(event);
      if (touch) held.current?.drag?.move(touch);
    },
    onPointerUp: (event) => {
      if (isHeld(event)) letGo("end");
    },
    onPointerCancel: cancel,
    onLostPointerCapture: cancel,
    onContextMenu: (event) => {
      event.preventDefault();
      onHold(menuPoint(event));
    },
  };
}

/** Return what a press meets; null for buttons that mean nothing here. */
function pressOf(
  event: PointerEvent<Element>,
  spaceHeld: boolean,
  desk: DeskActions,
): Press | null {
  const pans = spaceHeld || event.button === MIDDLE_BUTTON;
  if (!pans && event.button !== 0) return null;
  event.currentTarget.setPointerCapture(event.pointerId);
  if (event.button === MIDDLE_BUTTON) event.preventDefault();
  const touch = touchOf(event);
  const composite = expectedComposite();
  if (!touch || !composite) return null;
  return { touch, grip: gripOf(event.target), pans, composite, open: openLayer(), desk };
}

/** Break off by the key what is dragged; `cancel` tells whether anything was. */
function useCancelKey(cancel: () => boolean): void {
  const newest = useRef(cancel);
  newest.current = cancel;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === "Escape" && newest.current()) event.stopImmediatePropagation();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => window.removeEventListener("keydown", onKey, { capture: true });
  }, []);
}

/** Zoom towards the pointer; a listener of its own, since React's cannot be active. */
export function useWheelZoom(element: Element | null): void {
  useEffect(() => {
    if (!element) return;
    const onWheel = (event: Event) => {
      if (!(event instanceof WheelEvent)) return;
      event.preventDefault();
      if (event.altKey && brushNow()) {
        resizeHeld(-Math.sign(event.deltaY));
        return;
      }
      const box = element.getBoundingClientRect();
      zoomTowards(
        { x: event.clientX - box.left, y: event.clientY - box.top },
        Math.exp(-event.deltaY * WHEEL_ZOOM),
      );
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [element]);
}

/** Return where the menu was asked for: by the key, in the middle of what is shown. */
function menuPoint(event: MouseEvent<Element>): Point {
  const box = event.currentTarget.getBoundingClientRect();
  const byKey = event.clientX === 0 && event.clientY === 0;
  if (byKey || event.button !== SECOND_BUTTON) return { x: box.width / 2, y: box.height / 2 };
  return { x: event.clientX - box.left, y: event.clientY - box.top };
}

function gripOf(target: EventTarget): string | null {
  return target instanceof Element ? target.getAttribute("data-grip") : null;
}

/** Tell whether a key is meant for the stage: it has the focus, or nothing has. */
export function isOnStage(target: EventTarget | null): boolean {
  if (target === document.body) return true;
  return target instanceof Element && target.closest("[data-stage]") !== null;
}

function useSpaceHeld(): boolean {
  const [held, setHeld] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const ours = isOnStage(event.target) && !isTyping(event.target);
      // Elsewhere the space bar presses buttons and types.
      if (event.key !== " " || (event.type === "keydown" && !ours)) return;
      setHeld(event.type === "keydown");
      if (ours) event.preventDefault();
    };
    const letGo = () => setHeld(false);
    window.addEventListener("keydown", onKey);
    window.addEventListener("keyup", onKey);
    window.addEventListener("blur", letGo);
    return () => {
      window.removeEventListener("keydown", onKey);
      window.removeEventListener("keyup", onKey);
      window.removeEventListener("blur", letGo);
    };
  }, []);
  return held;
}
