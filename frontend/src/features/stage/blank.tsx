/** A photo is set into a blank place: a rough stroke over that gives its four corners. */

import type { PointerEvent, ReactElement } from "react";
import { askForBlank } from "@/api/calls";
import { openLayer } from "@/features/desk/commands";
import type { DeskActions } from "@/features/desk/DeskContext";
import { Trace } from "@/features/stage/BrushRing";
import type { DrawDrag } from "@/features/stage/drawing";
import { stagePoint } from "@/features/stage/useHold";
import { viewInForce } from "@/features/stage/zooming";
import type { Point } from "@/model/geometry";
import { intoPile, onCanvas } from "@/model/nesting";
import { setInto } from "@/model/shaping";
import { canvasToStage, type StageView, stageToCanvas } from "@/model/viewing";
import { useJudging } from "@/state/judging";
import { useMessages } from "@/state/messages";
import { expectedComposite, savedRevision } from "@/state/project";
import { useShaping } from "@/state/shaping";

/** Pixels of the screen. */
const BRUSH = 26;
const STEP = 5;
const MOST_POINTS = 400;

/** Look for a blank place: the open photo is out of the way meanwhile. */
export function lookForBlank(): void {
  useShaping.getState().setBlank([]);
  useJudging.getState().setAid(null);
  useJudging.getState().setOut(true);
}

/** Look for none any more. */
export function leaveBlank(): void {
  useShaping.getState().setBlank(null);
  useJudging.getState().setOut(false);
}

/** Tell whether a press on the stage goes over a blank place. */
export function blankNow(): boolean {
  return useShaping.getState().blank !== null;
}

/** Begin a stroke over a blank place, while one is looked for. */
export function blankDrag(start: Point): DrawDrag | null {
  if (!blankNow()) return null;
  let stroke: readonly Point[] = [start];
  const { setBlank } = useShaping.getState();
  setBlank(stroke);
  return {
    kind: "draw",
    move: (event: PointerEvent<Element>) => {
      const view = viewInForce();
      const last = stroke.at(-1);
      if (!view || !last || stroke.length >= MOST_POINTS) return;
      const to = stageToCanvas(view, stagePoint(event));
      if (Math.hypot(to.x - last.x, to.y - last.y) * view.scale < STEP) return;
      stroke = [...stroke, to];
      setBlank(stroke);
    },
    end: (desk) => {
      void setIntoBlank(desk, stroke);
    },
  };
}

async function setIntoBlank(desk: DeskActions, stroke: readonly Point[]): Promise<void> {
  const layer = openLayer();
  const composite = expectedComposite();
  const scale = viewInForce()?.scale;
  const { setBlank } = useShaping.getState();
  if (layer?.kind !== "photo" || !composite || !scale) return leaveBlank();
  try {
    const points = await askForBlank(desk.projectId, {
      revision: await savedRevision(),
      layer_id: layer.id,
      stroke: stroke.map(({ x, y }) => [x, y]),
      radius: BRUSH / 2 / scale,
    });
    // Somebody may have thought better of it meanwhile.
    if (!blankNow()) return;
    const placed = setInto(onCanvas(composite, layer).placement, layer, points);
    if (!placed) throw new Error("The four corners found there would fold the photo.");
    const placement = intoPile(composite, layer.id, placed);
    desk.edit({ kind: "place_layer", layer_id: layer.id, placement });
    leaveBlank();
  } catch (error) {
    useMessages.getState().warn(error instanceof Error ? error.message : String(error));
    // Another stroke can follow at once.
    if (blankNow()) setBlank([]);
  }
}

export function BlankTrace({ view }: { readonly view: StageView }): ReactElement | null {
  const stroke = useShaping((shaping) => shaping.blank);
  if (!stroke || stroke.length === 0) return null;
  const drawn = (stroke.length === 1 ? [...stroke, ...stroke] : stroke).map((at) => {
    const { x, y } = canvasToStage(view, at);
    return `${x.toFixed(1)},${y.toFixed(1)}`;
  });
  return <Trace data-shows="true" points={drawn.join(" ")} strokeWidth={BRUSH} />;
}
