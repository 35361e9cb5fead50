/** A photo is set into a blank place: a rough stroke over that gives its four corners. */

import type { PointerEvent, ReactElement } from "react";
import { askForBlank } from "@/api/calls";
import { openLayer } from "@/features/desk/commands";
import type { DeskActions } from "@/features/desk/DeskContext";
import { Trace } from "@/features/stage/BrushRing";
import type { DrawDrag } from "@/features/stage/drawing";
import { listed } from "@/features/stage/gripParts";
import { goneOn, thinned } from "@/features/stage/roughStroke";
import { stagePoint } from "@/features/stage/useHold";
import { viewInForce } from "@/features/stage/zooming";
import type { Point } from "@/model/geometry";
import { intoPile, onCanvas } from "@/model/nesting";
import { setInto } from "@/model/shaping";
import { canvasToStage, type StageView, stageToCanvas } from "@/model/viewing";
import { findOut } from "@/state/finding";
import { expectedComposite, savedRevision } from "@/state/project";
import { useShaping } from "@/state/shaping";

/** Pixels of the screen. */
const BRUSH = 26;

/** Look for a blank place; as long as one is looked for, the open photo is left out. */
export function lookForBlank(): void {
  useShaping.getState().setBlank([]);
}

/** Look for none any more. */
export function leaveBlank(): void {
  useShaping.getState().setBlank(null);
}

/** Forget a stroke that was broken off. */
export function breakOffBlank(): void {
  if (blankNow()) useShaping.getState().setBlank([]);
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
      if (!view) return;
      stroke = goneOn(stroke, stageToCanvas(view, stagePoint(event)), view.scale);
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
  if (layer?.kind !== "photo" || !composite || !scale) return leaveBlank();
  await findOut(async () => {
    const points = await askForBlank(desk.projectId, {
      revision: await savedRevision(),
      layer_id: layer.id,
      stroke: thinned(stroke).map(({ x, y }) => [x, y]),
      radius: BRUSH / 2 / scale,
    });
    // Somebody may have thought better of it meanwhile.
    if (!blankNow()) return;
    const placed = setInto(onCanvas(composite, layer).placement, layer, points);
    if (!placed) throw new Error("The four corners found there would fold the photo.");
    const placement = intoPile(composite, layer.id, placed);
    desk.edit({ kind: "place_layer", layer_id: layer.id, placement });
    leaveBlank();
  });
  // After one that found nothing another can follow at once.
  breakOffBlank();
}

export function BlankTrace({ view }: { readonly view: StageView }): ReactElement | null {
  const stroke = useShaping((shaping) => shaping.blank);
  if (!stroke || stroke.length === 0) return null;
  const points = listed(stroke.map((at) => canvasToStage(view, at)));
  return <Trace data-shows="true" points={points} strokeWidth={BRUSH} />;
}
