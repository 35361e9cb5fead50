/** Dragging what lies on a layer: its fades, and the shapes of its mask. */

import type { PointerEvent } from "react";
import { stagePoint } from "@/features/stage/useHold";
import { viewInForce } from "@/features/stage/zooming";
import { type Composite, type Edit, isLocked, type Layer } from "@/model/composite";
import { draggedFade, type FadeGrip, openFadePlace, tryFades, withFade } from "@/model/fades";
import type { Point } from "@/model/geometry";
import { lyingOf, maskLying } from "@/model/lying";
import { changePart, draggedShape, openShape, type ShapeGrip } from "@/model/masks";
import { stageToCanvas } from "@/model/viewing";
import { facetFor, useDesk } from "@/state/desk";

export type OwnGrip = FadeGrip | ShapeGrip;

/** A grip of something that lies on the layer. */
export interface OwnDrag {
  readonly kind: "own";
  edit(to: Point, keys: PointerEvent<Element>): Edit;
}

/** Return what dragging a grip of the open fade or shape does. */
export function ownDrag(composite: Composite, layer: Layer, grip: unknown): OwnDrag | null {
  const { facet, line } = useDesk.getState();
  if (isLocked(composite, layer.id)) return null;
  return facetFor(layer, facet) === "fade"
    ? fadeDrag(composite, layer, grip as FadeGrip, line)
    : shapeDrag(composite, layer, grip as ShapeGrip, line);
}

function fadeDrag(
  composite: Composite,
  layer: Layer,
  grip: FadeGrip,
  line: string | null,
): OwnDrag | null {
  const place = openFadePlace(layer, line);
  const fade = layer.fades[place];
  if (!fade) return null;
  const lying = lyingOf(composite, layer, fade.linked);
  return {
    kind: "own",
    edit: (to) =>
      tryFades(layer, withFade(layer, place, draggedFade(fade, grip, lying.fromCanvas(to)))),
  };
}

function shapeDrag(
  composite: Composite,
  layer: Layer,
  grip: ShapeGrip,
  line: string | null,
): OwnDrag | null {
  const part = openShape(layer, line);
  if (!part || !layer.mask) return null;
  const lying = maskLying(composite, layer, layer.mask);
  return {
    kind: "own",
    edit: (to, keys) => changePart(layer, draggedShape(part, grip, lying.fromCanvas(to), keys)),
  };
}

export function dragOwn(drag: OwnDrag, event: PointerEvent<Element>): void {
  const view = viewInForce();
  if (!view) return;
  const to = stageToCanvas(view, stagePoint(event));
  useDesk.getState().actions.setLive(drag.edit(to, event));
}
