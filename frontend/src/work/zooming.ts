/** Zooming and fitting the stage's view. */

import type { Point } from "@/model/points";
import { centredView, fitView, type StageView, zoomedAt } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";
import { expectedComposite } from "@/state/project";

const STEP = 1.25;

/** Return the view in force: the chosen one, or the one that fits the canvas. */
export function viewInForce(): StageView | null {
  const canvas = expectedComposite()?.canvas;
  const { view, stage } = useDesk.getState();
  return view ?? (canvas ? fitView(canvas, stage) : null);
}

export function zoomFit(): void {
  useDesk.getState().actions.setView(null);
}

/** One canvas pixel on one pixel of the screen, in the middle. */
export function zoomLifeSize(): void {
  const canvas = expectedComposite()?.canvas;
  const { stage, actions } = useDesk.getState();
  if (canvas) actions.setView(centredView(canvas, stage, 1 / window.devicePixelRatio));
}

export function zoomStep(steps: number): void {
  const { stage } = useDesk.getState();
  zoomTowards({ x: stage.width / 2, y: stage.height / 2 }, STEP ** steps);
}

/** Zoom so that what lies under a position of the stage stays there. */
export function zoomTowards(at: Point, factor: number): void {
  const view = viewInForce();
  if (view) useDesk.getState().actions.setView(zoomedAt(view, at, factor));
}
