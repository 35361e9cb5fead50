/** Grips of words: the sides of their block, and what bends their lines. */

import { ARC, CIRCLE, SETTING, WAVE } from "@generated/limits";
import type { Edit, WordsLayer } from "@/model/composite";
import type { Point } from "@/model/points";
import { type Form, wordsEdit } from "@/model/words";

export type WordsGrip = "block-left" | "block-right" | "form";

export function isWordsGrip(grip: string | null): grip is WordsGrip {
  return grip === "block-left" || grip === "block-right" || grip === "form";
}

interface PlacedGrip {
  readonly grip: WordsGrip;
  /** In the words' own pixels. */
  readonly at: Point;
}

/** Return the grips that words have as they are set now. */
export function wordsGrips(layer: WordsLayer): readonly PlacedGrip[] {
  const [left, top, right, bottom] = layer.measure.block;
  const { form, align } = layer.words.setting;
  const [across, down] = [(left + right) / 2, (top + bottom) / 2];
  if (form.kind === "straight" || form.kind === "fitted") {
    const first: PlacedGrip = { grip: "block-left", at: { x: left, y: down } };
    const last: PlacedGrip = { grip: "block-right", at: { x: right, y: down } };
    // The side that lines are aligned at stays.
    if (align === "middle") return [first, last];
    return align === "right" ? [first] : [last];
  }
  // A circle is taken where its line has its middle.
  if (form.kind !== "circle") return [{ grip: "form", at: { x: across, y: top } }];
  const turn = (form.start * Math.PI) / 180;
  const reach = Math.min(right - left, bottom - top) / 2;
  return [
    { grip: "form", at: { x: across + reach * Math.sin(turn), y: down - reach * Math.cos(turn) } },
  ];
}

/** Return the edit of dragging a grip from one place to another, in the words' own pixels. */
export function draggedWords(layer: WordsLayer, grip: WordsGrip, from: Point, to: Point): Edit {
  if (grip === "form") {
    return wordsEdit(layer, { setting: { form: draggedForm(layer, from, to) } });
  }
  const [left, , right] = layer.measure.block;
  const { width, align } = layer.words.setting;
  const outwards = (to.x - from.x) * (grip === "block-left" ? -1 : 1);
  const sides = align === "middle" ? 2 : 1;
  const wide = (width ?? right - left) + sides * outwards;
  return wordsEdit(layer, { setting: { width: between(wide, 1, SETTING.width.maximum) } });
}

const DEGREE = Math.PI / 180;

function draggedForm(layer: WordsLayer, from: Point, to: Point): Form {
  const [left, top, right, bottom] = layer.measure.block;
  const { form, size } = layer.words.setting;
  const up = from.y - to.y;
  switch (form.kind) {
    case "arc": {
      // A chord of w whose middle lies s higher is an arc of about 8 s / w.
      const more = (8 * up) / Math.max(right - left, 1) / DEGREE;
      return { ...form, angle: between(form.angle + more, ARC.angle.minimum, ARC.angle.maximum) };
    }
    case "wave":
      return {
        ...form,
        height: between(form.height + up / size, WAVE.height.minimum, WAVE.height.maximum),
      };
    case "circle": {
      const middle = { x: (left + right) / 2, y: (top + bottom) / 2 };
      const [was, is] = [from, to].map((at) => ({
        far: Math.max(Math.hypot(at.x - middle.x, at.y - middle.y), 1),
        turn: Math.atan2(at.x - middle.x, middle.y - at.y) / DEGREE,
      })) as [Polar, Polar];
      const start = wrapped(form.start + is.turn - was.turn);
      const radius = between((form.radius * is.far) / was.far, 1, CIRCLE.radius.maximum);
      return { ...form, start, radius };
    }
    default:
      return form;
  }
}

interface Polar {
  readonly far: number;
  readonly turn: number;
}

function wrapped(degrees: number): number {
  return ((((degrees + 180) % 360) + 360) % 360) - 180;
}

function between(value: number, least: number, most: number): number {
  return Math.min(Math.max(value, least), most);
}
