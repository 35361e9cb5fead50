/** Fades by their ends: what the hand drags on the stage, and ready ones to try. */

import { FADE } from "@generated/limits";
import { type Edit, type Fade, isPlaced, type Layer } from "@/model/composite";
import { toSource } from "@/model/geometry";
import type { Point, Size } from "@/model/points";
import { seenPart } from "@/model/reaching";
import type { TryGroup } from "@/model/tries";

export type FadeGrip = "full" | "gone" | "middle" | "side";

const RADIANS = Math.PI / 180;
/** How much of a layer a ready fade takes up. */
const SHARE = 0.45;

/** Return which fade is worked on: the one of the open line, or the first. */
export function openFadePlace(layer: Layer, line: string | null): number {
  const place = line === null ? 0 : Number(line);
  return Number.isInteger(place) && place < layer.fades.length ? place : 0;
}

/** Return the fade that is worked on, if there is any. */
export function openFade(layer: Layer, line: string | null): Fade | undefined {
  return layer.fades[openFadePlace(layer, line)];
}

/** Return where a fade's grips lie in its own positions. */
export function fadeGrips(fade: Fade): Readonly<Record<FadeGrip, Point>> {
  const at = (along: number, beside = 0) => pointAt(fade, along, beside);
  if (fade.shape === "line") {
    return { full: at(-0.5), middle: at(0), gone: at(0.5), side: at(0) };
  }
  return { middle: at(0), full: at(fade.full), gone: at(1), side: at(0, fade.aspect) };
}

/** Return the position so many lengths along a fade and beside it. */
export function pointAt(fade: Fade, along: number, beside: number): Point {
  const cosine = Math.cos(fade.angle * RADIANS);
  const sine = Math.sin(fade.angle * RADIANS);
  return {
    x: fade.x + fade.length * (along * cosine - beside * sine),
    y: fade.y + fade.length * (along * sine + beside * cosine),
  };
}

/** Return a fade with one of its grips dragged elsewhere; the others stay. */
export function draggedFade(fade: Fade, grip: FadeGrip, to: Point): Fade {
  if (grip === "middle") return { ...fade, ...rounded(to) };
  if (fade.shape === "line") {
    const grips = fadeGrips(fade);
    const [full, gone] = grip === "full" ? [to, grips.gone] : [grips.full, to];
    const middle = { x: (full.x + gone.x) / 2, y: (full.y + gone.y) / 2 };
    return { ...fade, ...rounded(middle), ...between(full, gone) };
  }
  const across = { x: to.x - fade.x, y: to.y - fade.y };
  const along =
    across.x * Math.cos(fade.angle * RADIANS) + across.y * Math.sin(fade.angle * RADIANS);
  const beside = Math.hypot(across.x, across.y) ** 2 - along ** 2;
  if (grip === "side") {
    const aspect = Math.sqrt(Math.max(beside, 0)) / fade.length;
    return { ...fade, aspect: kept(aspect, FADE.aspect.minimum, FADE.aspect.maximum) };
  }
  if (grip === "full") {
    return { ...fade, full: kept(along / fade.length, FADE.full.minimum, FADE.full.maximum) };
  }
  const aside = fade.aspect * fade.length;
  const turned = between(fade, to);
  const aspect = kept(aside / turned.length, FADE.aspect.minimum, FADE.aspect.maximum);
  return { ...fade, ...turned, aspect };
}

/** How much of what each photo has to itself melts into the next, at first. */
const FIRST_OVERLAP = 0.3;

/** Return the edit that lays photos in a row across or down a sheet, melting together. */
export function meltTogether(
  layerIds: readonly string[],
  axis: "across" | "down",
  sheet: Size,
): Extract<Edit, { kind: "melt_photos" }> {
  const extent = axis === "across" ? sheet.width : sheet.height;
  const overlap = Math.max(1, Math.round((extent * FIRST_OVERLAP * 2) / layerIds.length));
  return { kind: "melt_photos", layer_ids: [...layerIds], axis, overlap };
}

/** Return the edit that gives a layer other fades. */
export function tryFades(layer: Layer, fades: readonly Fade[]): Edit {
  return { kind: "fade_layer", layer_id: layer.id, fades: [...fades] };
}

/** Return a layer's fades with one exchanged, or added at the end. */
export function withFade(layer: Layer, place: number, fade: Fade): Fade[] {
  const fades = [...layer.fades];
  fades[Math.min(place, fades.length)] = fade;
  return fades;
}

/** Return the fade that a layer gets first: out to the side that is seen at the left. */
export function firstFade(layer: Layer, sheet: Size): Fade {
  return outTo(layer, sheet, 180);
}

/** Return ready fades, in the place of the one at `place`. */
export function fadeTries(layer: Layer, sheet: Size, place: number): TryGroup[] {
  const none = layer.fades.filter((_, index) => index !== place);
  const take = (title: string, fades: readonly Fade[]) => ({
    title,
    edit: tryFades(layer, fades),
    isChosen: areAlike(fades, layer.fades),
  });
  const one = (title: string, fade: Fade) => take(title, withFade(layer, place, fade));
  const { middle, size } = seenPart(layer, sheet);
  const round: Fade = {
    ...PLAIN,
    ...middle,
    shape: "round",
    length: size.width / 2,
    aspect: size.height / size.width,
    full: 0.4,
  };
  const sides: Fade = { ...round, shape: "sides", full: 0.5, roundness: 0.3 };
  const both = (angle: number): Fade => {
    const along = seenAxis(layer, angle);
    const length = (along % 180 === 0 ? size.width : size.height) / 2;
    return { ...PLAIN, ...middle, shape: "both", angle: along, length, full: 0.4 };
  };
  return [
    { title: "Not at all", tries: [take("As a whole", none)] },
    {
      title: "Out to a side",
      tries: [
        one("To the left", outTo(layer, sheet, 180)),
        one("To the right", outTo(layer, sheet, 0)),
        one("Upwards", outTo(layer, sheet, -90)),
        one("Downwards", outTo(layer, sheet, 90)),
      ],
    },
    {
      title: "On several sides",
      tries: [
        one("Left and right", both(0)),
        one("Top and bottom", both(90)),
        one("All sides", sides),
      ],
    },
    {
      title: "Round",
      tries: [one("Outwards", round), one("Inwards", { ...round, inward: true })],
    },
  ];
}

const PLAIN = {
  x: 0,
  y: 0,
  length: 1,
  angle: 0,
  shape: "line",
  aspect: 1,
  full: 0,
  roundness: 0,
  curve: "gentle",
  inward: false,
  linked: true,
} as const satisfies Fade;

function outTo(layer: Layer, sheet: Size, seen: number): Fade {
  const angle = seenAxis(layer, seen);
  const { middle, size } = seenPart(layer, sheet);
  const level = angle % 180 === 0;
  const extent = level ? size.width : size.height;
  const length = Math.round(extent * SHARE);
  // The end lies on the layer's edge.
  const shift = extent / 2 - length / 2;
  const x = middle.x + (level ? Math.cos(angle * RADIANS) * shift : 0);
  const y = middle.y + (level ? 0 : Math.sin(angle * RADIANS) * shift);
  return { ...PLAIN, ...rounded({ x, y }), length, angle };
}

/** Return the axis of the layer's own pixels that is seen to run in a direction. */
function seenAxis(layer: Layer, seen: number): number {
  if (!isPlaced(layer)) return seen;
  const origin = toSource(layer, layer.placement);
  const ahead = toSource(layer, {
    x: layer.placement.x + Math.cos(seen * RADIANS),
    y: layer.placement.y + Math.sin(seen * RADIANS),
  });
  const angle = Math.atan2(ahead.y - origin.y, ahead.x - origin.x) / RADIANS;
  const axis = Math.round(angle / 90) * 90;
  return axis === -180 ? 180 : axis;
}

/** Tell whether two lists of fades are the same to a tenth of a pixel. */
function areAlike(one: readonly Fade[], other: readonly Fade[]): boolean {
  const said = (fades: readonly Fade[]) =>
    JSON.stringify(
      fades.map((fade) =>
        Object.entries({ ...PLAIN, ...fade })
          .map(([name, value]) => [name, typeof value === "number" ? value.toFixed(2) : value])
          .sort(),
      ),
    );
  return said(one) === said(other);
}

function between(start: Point, end: Point): { length: number; angle: number } {
  return {
    length: Math.max(1, Math.hypot(end.x - start.x, end.y - start.y)),
    angle: Math.round((Math.atan2(end.y - start.y, end.x - start.x) / RADIANS) * 10) / 10,
  };
}

function rounded(point: Point): Point {
  return { x: Math.round(point.x * 10) / 10, y: Math.round(point.y * 10) / 10 };
}

function kept(value: number, least: number, most: number): number {
  return Math.min(Math.max(value, least), most);
}
