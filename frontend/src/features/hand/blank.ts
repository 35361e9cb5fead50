/** A photo, or words, are set into a blank place: a rough stroke over that gives its four corners. */

import { askForBlank } from "@/api/calls";
import type { Drag, Press } from "@/features/hand/drag";
import { goneOn, thinned } from "@/features/hand/roughStroke";
import { isFlat } from "@/model/composite";
import { intoPile, onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { setInto } from "@/model/shaping";
import { findOut } from "@/state/finding";
import { expectedComposite, savedRevision } from "@/state/project";
import { useShaping } from "@/state/shaping";
import { BLANK_BRUSH, blankNow, breakOffBlank, leaveBlank } from "@/work/blank";
import { openLayer } from "@/work/commands";
import type { DeskActions } from "@/work/DeskContext";
import { viewInForce } from "@/work/zooming";

/** Begin a stroke over a blank place, while one is looked for. */
export function settingIn({ touch, desk }: Press): Drag | undefined {
  if (!blankNow()) return undefined;
  let stroke: readonly Point[] = [touch.at];
  const { setBlank } = useShaping.getState();
  setBlank(stroke);
  return {
    move: ({ at, view }) => {
      stroke = goneOn(stroke, at, view.scale);
      setBlank(stroke);
    },
    end: () => void setIntoBlank(desk, stroke),
    cancel: breakOffBlank,
  };
}

async function setIntoBlank(desk: DeskActions, stroke: readonly Point[]): Promise<void> {
  const layer = openLayer();
  const composite = expectedComposite();
  const scale = viewInForce()?.scale;
  if (!isFlat(layer) || !composite || !scale) return leaveBlank();
  await findOut(async () => {
    const points = await askForBlank(desk.projectId, {
      revision: await savedRevision(),
      layer_id: layer.id,
      stroke: thinned(stroke).map(({ x, y }) => [x, y]),
      radius: BLANK_BRUSH / 2 / scale,
    });
    // Somebody may have thought better of it meanwhile.
    if (!blankNow() || desk.isLeft()) return;
    const placed = setInto(onCanvas(composite, layer).placement, layer, points);
    if (!placed) throw new Error("The four corners found there would fold it.");
    const placement = intoPile(composite, layer.id, placed);
    desk.edit({ kind: "place_layer", layer_id: layer.id, placement });
    leaveBlank();
  });
  // After one that found nothing another can follow at once.
  breakOffBlank();
}
