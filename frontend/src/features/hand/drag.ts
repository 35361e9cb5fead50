/** What every drag on the stage is, and what it is told of the pointer. */

import type { PointerEvent } from "react";
import type { Composite, Edit, Layer } from "@/model/composite";
import type { Point } from "@/model/points";
import { type StageView, stageToCanvas } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";
import type { DeskActions } from "@/work/DeskContext";
import { viewInForce } from "@/work/zooming";

/** Where a pointer was, and how hard it pressed there, 0..1. */
interface Touched {
  readonly at: Point;
  readonly pressure: number;
}

/** A pointer as it is now. Positions on the canvas are worked out by the view of now. */
export interface Touch extends Touched {
  /** In CSS pixels from the stage's corner. */
  readonly onStage: Point;
  readonly view: StageView;
  /** All that it went through since it was told of last, the place where it is now last. */
  readonly way: readonly Touched[];
  readonly shiftKey: boolean;
  readonly altKey: boolean;
  readonly ctrlKey: boolean;
}

/** What goes on while one pointer is down; no other pointer is heard meanwhile. */
export interface Drag {
  move(touch: Touch): void;
  /** The pointer was let go: what it did counts. */
  end(): void;
  /** It was broken off: nothing of it stays. */
  cancel(): void;
}

/** A press on the stage, and what it meets there. */
export interface Press {
  readonly touch: Touch;
  /** The name of the grip that it takes. */
  readonly grip: string | null;
  readonly pans: boolean;
  readonly composite: Composite;
  readonly open: Layer | undefined;
  readonly desk: DeskActions;
}

/**
 * What a press may begin: a drag; null where it is done already, or is to do nothing;
 * undefined where it means nothing here, so that the next is asked.
 */
export type Begin = (press: Press) => Drag | null | undefined;

/** Return what a pointer's event tells; null while there is nothing to see. */
export function touchOf(event: PointerEvent<Element>): Touch | null {
  const view = viewInForce();
  if (!view) return null;
  const box = event.currentTarget.getBoundingClientRect();
  const onStageOf = ({ clientX, clientY }: { clientX: number; clientY: number }) => ({
    x: clientX - box.left,
    y: clientY - box.top,
  });
  const touched = (one: PointerEvent<Element> | globalThis.PointerEvent) => ({
    at: stageToCanvas(view, onStageOf(one)),
    pressure: pressureOf(one.pointerType, one.pressure),
  });
  const moves = event.nativeEvent.getCoalescedEvents?.() ?? [];
  const way = moves.length > 0 ? moves.map(touched) : [touched(event)];
  const { shiftKey, altKey, ctrlKey } = event;
  const keys = { shiftKey, altKey, ctrlKey };
  return { ...touched(event), onStage: onStageOf(event), view, way, ...keys };
}

/** Only pens press harder and softer. */
function pressureOf(pointer: string, pressure: number): number {
  return pointer === "pen" ? Math.max(pressure, 0.05) : 1;
}

/** Something that is pulled, shown as an edit until it is let go. */
export interface Pull {
  /** Return what it comes to with the pointer there; null where it does not move yet. */
  edit(touch: Touch): Edit | null;
  /** Return what counts in the end, where that is not what was shown last. */
  ends?(): Edit | null;
  /** Hears that it was broken off. */
  breaksOff?(): void;
  /** The layer that is opened when it has moved. */
  readonly opens?: string;
  /** What a press that did not move anything does. */
  clicked?(): void;
}

/** Pull something: what was shown last becomes an edit, where nothing else is said. */
export function pulling(desk: DeskActions, pull: Pull): Drag {
  const { setLive, open } = useDesk.getState().actions;
  let shown: Edit | null = null;
  return {
    move: (touch) => {
      const edit = pull.edit(touch);
      if (!edit) return;
      shown = edit;
      setLive(edit);
    },
    end: () => {
      const made = shown && pull.ends ? pull.ends() : shown;
      if (made) {
        desk.edit(made);
        if (pull.opens) open(pull.opens);
      } else if (!shown) pull.clicked?.();
      setLive(null);
    },
    cancel: () => {
      pull.breaksOff?.();
      setLive(null);
    },
  };
}
