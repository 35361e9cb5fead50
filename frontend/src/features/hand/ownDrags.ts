/** Dragging what lies on a layer: its fades, and the shapes of its mask. */

import type { Pull, Touch } from "@/features/hand/drag";
import { type Composite, isLocked, type Layer } from "@/model/composite";
import { movedCorner, movedOutline, type OutlinePart } from "@/model/drawing";
import { boxOf, draggedShadow, openEffectPlace, shaded } from "@/model/effects";
import { draggedFade, type FadeGrip, openFadePlace, tryFades, withFade } from "@/model/fades";
import { lyingOf, maskLying } from "@/model/lying";
import { changePart, draggedShape, openPart, openShape, type ShapeGrip } from "@/model/masks";
import type { Point } from "@/model/points";
import { useDesk } from "@/state/desk/desk";
import { facetFor } from "@/state/desk/selection";
import { extentOf } from "@/state/extents";

type OutlineGrip = "middle" | `corner-${number}`;

/** Return what dragging a grip of the open fade or shape does. */
export function ownPull(composite: Composite, layer: Layer, grip: unknown): Pull | null {
  const { facet, line } = useDesk.getState();
  if (isLocked(composite, layer.id)) return null;
  switch (facetFor(layer, facet)) {
    case "fade":
      return fadeDrag(composite, layer, grip as FadeGrip, line);
    case "shadow":
      return shadowDrag(composite, layer, line);
    default:
      return shapeDrag(composite, layer, grip as ShapeGrip | OutlineGrip, line);
  }
}

function shadowDrag(composite: Composite, layer: Layer, line: string | null): Pull | null {
  const place = openEffectPlace(layer, line);
  const effect = place === null ? undefined : layer.effects[place];
  if (place === null || !effect) return null;
  const lying = lyingOf(composite, layer, false);
  const box = boxOf(layer, lying, extentOf(layer.id));
  if (!box) return null;
  return {
    edit: ({ at }) => {
      const dragged = draggedShadow(effect, box, lying.fromCanvas(at));
      return shaded(layer, layer.effects.with(place, dragged));
    },
  };
}

function fadeDrag(
  composite: Composite,
  layer: Layer,
  grip: FadeGrip,
  line: string | null,
): Pull | null {
  const place = openFadePlace(layer, line);
  const fade = layer.fades[place];
  if (!fade) return null;
  const lying = lyingOf(composite, layer, fade.linked);
  return {
    edit: ({ at }) =>
      tryFades(layer, withFade(layer, place, draggedFade(fade, grip, lying.fromCanvas(at)))),
  };
}

function shapeDrag(
  composite: Composite,
  layer: Layer,
  grip: ShapeGrip | OutlineGrip,
  line: string | null,
): Pull | null {
  const part = openShape(layer, line) ?? openOutline(layer, line);
  if (!part || !layer.mask) return null;
  const lying = maskLying(composite, layer, layer.mask);
  const dragged = (to: Point, keys: Touch) =>
    part.kind === "outline"
      ? draggedOutline(part, grip as OutlineGrip, to)
      : draggedShape(part, grip as ShapeGrip, to, keys);
  return {
    edit: (touch) => changePart(layer, dragged(lying.fromCanvas(touch.at), touch)),
  };
}

function openOutline(layer: Layer, line: string | null): OutlinePart | undefined {
  const part = openPart(layer, line);
  return part?.kind === "outline" && (line === null || line === part.id) ? part : undefined;
}

const CORNER = "corner-";

function draggedOutline(part: OutlinePart, grip: OutlineGrip, to: Point): OutlinePart {
  if (grip === "middle") return movedOutline(part, to);
  return movedCorner(part, Number(grip.slice(CORNER.length)), to);
}
