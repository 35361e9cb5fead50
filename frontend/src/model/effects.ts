/** Shadows and outlines of a layer: which kinds there are, and how the list changes. */

import * as generated from "@generated/limits";
import { type Edit, type Effect, isPlaced, type Layer } from "@/model/composite";
import { cornersOf } from "@/model/geometry";
import type { Lying } from "@/model/lying";
import type { Point, Size } from "@/model/points";
import type { Try, TryGroup } from "@/model/tries";

export type EffectKind = Effect["kind"];
export type EffectOf<Kind extends EffectKind> = Extract<Effect, { kind: Kind }>;

export const FRESH_EFFECTS: { readonly [Kind in EffectKind]: EffectOf<Kind> } = {
  cast: generated.CAST_SHADOW_FRESH,
  soft: generated.SOFT_SHADOW_FRESH,
  outline: generated.OUTLINE_FRESH,
};

export const EFFECT_LIMITS: { readonly [Kind in EffectKind]: Readonly<Record<string, object>> } = {
  cast: generated.CAST_SHADOW,
  soft: generated.SOFT_SHADOW,
  outline: generated.OUTLINE,
};

/** In the order in which they are offered. */
export const EFFECT_NAMES: readonly { readonly kind: EffectKind; readonly name: string }[] = [
  { kind: "cast", name: "a shadow on the ground" },
  { kind: "soft", name: "a soft shadow behind it" },
  { kind: "outline", name: "an outline" },
];

/** Return the kinds that a layer can have: what lies everywhere stands nowhere. */
export function effectsFor(layer: Layer): typeof EFFECT_NAMES {
  return EFFECT_NAMES.filter(({ kind }) => kind !== "cast" || isPlaced(layer));
}

/** How long a hundredth of the sheet's shorter side is, in pixels. */
function hundredth({ width, height }: Size): number {
  return Math.max(Math.min(width, height) / 100, 0.1);
}

/** Return an effect of a kind, with lengths that suit the sheet. */
export function freshEffect<Kind extends EffectKind>(
  kind: Kind,
  sheet: Size,
  values: Partial<EffectOf<Kind>> = {},
): EffectOf<Kind> {
  const unit = hundredth(sheet);
  const lengths = {
    cast: {},
    soft: { distance: rounded(1.2 * unit), softness: rounded(1.2 * unit) },
    outline: { width: rounded(0.6 * unit) },
  }[kind];
  return { ...FRESH_EFFECTS[kind], ...lengths, ...values };
}

function rounded(pixels: number): number {
  return Math.max(Math.round(pixels), 1);
}

/** Return which effect is worked on: the one of the open line, or none. */
export function openEffectPlace(layer: Layer, line: string | null): number | null {
  const place = Number(line ?? -1);
  return Number.isInteger(place) && place >= 0 && place < layer.effects.length ? place : null;
}

/** Return the edit that gives a layer other effects. */
export function shaded(layer: Layer, effects: readonly Effect[]): Edit {
  return { kind: "shade_layer", layer_id: layer.id, effects: [...effects] };
}

/** Return starting points; one takes the place of what the layer has of its kind. */
export function effectTries(layer: Layer, sheet: Size): TryGroup[] {
  const unit = hundredth(sheet);
  const take = <Kind extends EffectKind>(
    title: string,
    kind: Kind,
    values: Partial<EffectOf<Kind>>,
  ): Try => {
    const effect = freshEffect(kind, sheet, values);
    const others = layer.effects.filter((one) => one.kind !== kind);
    const effects = kind === "outline" ? [...others, effect] : [effect, ...others];
    const isChosen = layer.effects.some((one) => isSame(one, effect));
    return { title, isChosen, edit: shaded(layer, effects) };
  };
  const long = (parts: number) => Math.max(Math.round(parts * unit), 1);
  const ground = [
    take("To the right", "cast", { direction: 55 }),
    take("To the left", "cast", { direction: -55 }),
    take("At noon", "cast", { direction: 20, length: 0.25, softness: 0.12 }),
    take("Low sun", "cast", { direction: 78, length: 1.8, softness: 0.04, fading: 0.7 }),
    take("From before", "cast", { direction: 150, length: 0.6 }),
  ];
  const behind = [
    take("Close", "soft", { distance: long(0.6), softness: long(0.7) }),
    take("Hanging", "soft", { distance: long(2.5), softness: long(2.2), strength: 0.45 }),
    take("All round", "soft", { distance: 0, softness: long(2), strength: 0.7 }),
  ];
  const outline = [
    take("White", "outline", { color: "#ffffff" }),
    take("Dark", "outline", { color: "#17120e" }),
    take("Sticker", "outline", { color: "#ffffff", width: long(1.6) }),
  ];
  return [
    ...(isPlaced(layer) ? [{ title: "On the ground", tries: ground }] : []),
    { title: "Behind it", tries: behind },
    { title: "Outline", tries: outline },
  ];
}

function isSame(one: Effect, other: Effect): boolean {
  const values = Object.entries(other);
  return values.every(([field, value]) => Reflect.get(one, field) === value);
}

/** The upper left and the lower right corner. */
export type Box = readonly [Point, Point];

/** Where a shadow begins and ends on the stage; by its end it is dragged. */
export interface ShadowGrips {
  readonly from: Point;
  readonly end: Point;
}

/** Return them in what the layer lies in; null for others. */
export function shadowGrips(effect: Effect, box: Box): ShadowGrips | null {
  if (effect.kind === "outline") return null;
  const [{ x: left, y: top }, { x: right, y: bottom }] = box;
  const across = (left + right) / 2;
  if (effect.kind === "cast") {
    const angle = effect.direction * DEGREE;
    const far = effect.length * (bottom - top);
    const from = { x: across, y: bottom };
    return { from, end: movedAlong(from, Math.sin(angle) * far, Math.cos(angle) * far) };
  }
  const angle = effect.angle * DEGREE;
  const from = { x: across, y: (top + bottom) / 2 };
  const { distance } = effect;
  return { from, end: movedAlong(from, Math.cos(angle) * distance, Math.sin(angle) * distance) };
}

/** Return a shadow with its end dragged elsewhere. */
export function draggedShadow(effect: Effect, box: Box, to: Point): Effect {
  const grips = shadowGrips(effect, box);
  if (!grips || effect.kind === "outline") return effect;
  const [x, y] = [to.x - grips.from.x, to.y - grips.from.y];
  const far = Math.hypot(x, y);
  if (effect.kind === "soft") {
    const angle = Math.round(Math.atan2(y, x) / DEGREE);
    return { ...effect, angle, distance: Math.min(Math.round(far), DISTANCE.maximum) };
  }
  const [{ y: top }, { y: bottom }] = box;
  const length = Math.min(far / Math.max(bottom - top, 1), LENGTH.maximum);
  const direction = Math.round(Math.atan2(x, y) / DEGREE);
  return { ...effect, direction, length: Math.round(length * 100) / 100 };
}

/** Return the upright box in what a layer lies in, of where it shows on the canvas. */
export function boxOf(layer: Layer, lying: Lying, extent: Box | null): Box | null {
  if (!isPlaced(layer)) return null;
  const corners = extent ? aroundOf(extent).map(lying.fromCanvas) : cornersOf(layer);
  const [left, right] = ends(corners.map(({ x }) => x));
  const [top, bottom] = ends(corners.map(({ y }) => y));
  return [
    { x: left, y: top },
    { x: right, y: bottom },
  ];
}

function aroundOf([from, to]: Box): Point[] {
  return [from, { x: to.x, y: from.y }, to, { x: from.x, y: to.y }];
}

const DEGREE = Math.PI / 180;
const { distance: DISTANCE } = generated.SOFT_SHADOW;
const { length: LENGTH } = generated.CAST_SHADOW;

function ends(numbers: readonly number[]): [number, number] {
  return [Math.min(...numbers), Math.max(...numbers)];
}

function movedAlong({ x, y }: Point, across: number, down: number): Point {
  return { x: x + across, y: y + down };
}
