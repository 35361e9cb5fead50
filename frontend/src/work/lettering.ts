/** Laying words on, and typing them. */

import { v4 as newId } from "uuid";
import { isLocked, type WordsLayer } from "@/model/composite";
import { clampedScale } from "@/model/geometry";
import { newLayerPart } from "@/model/masks";
import { onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { frameBounds } from "@/model/snapping";
import { freshWords } from "@/model/words";
import { useDesk } from "@/state/desk/desk";
import { useKnownFonts } from "@/state/fonts";
import { useMessages } from "@/state/messages";
import { expectedComposite } from "@/state/project";
import { useTyping } from "@/state/typing";
import type { DeskActions } from "@/work/DeskContext";

/** The family that fresh words are set in, where it is there. */
const FIRST_FAMILY = "Work Sans";

/** Lay words on, round a point or in the middle, and type them at once. */
export function layWords(desk: DeskActions, at: Point | null = null): void {
  const composite = expectedComposite();
  const fonts = useKnownFonts.getState().known.filter((font) => font.is_here);
  const ofFirst = fonts.filter(({ family }) => family === FIRST_FAMILY);
  const font = ofFirst.find(({ style }) => style === "bold") ?? ofFirst[0] ?? fonts[0];
  if (!composite) return;
  if (!font) {
    useMessages.getState().warn("No font is there yet. Bring one in, or start Glyphaneme again.");
    return;
  }
  const layer_id = newId();
  desk.edit({
    kind: "add_words",
    layer_id,
    name: "Words",
    words: freshWords(composite.canvas, font, composite.layers.length > 0),
    at: at ? [at.x, at.y] : null,
    index: null,
  });
  useDesk.getState().actions.open(layer_id, "lettering");
  useTyping.getState().begin(layer_id);
}

/** Type the words of a layer on the stage. */
export function typeWords(layer: WordsLayer): void {
  const composite = expectedComposite();
  if (!composite || isLocked(composite, layer.id)) return;
  useDesk.getState().actions.open(layer.id, "lettering");
  useTyping.getState().begin(layer.id);
}

/**
 * Lay a photo over words that shows only inside their letters, as large as they are. The
 * words themselves are hidden then, unless an outline or a panel of them is to be seen.
 */
export function holdPhoto(desk: DeskActions, layer: WordsLayer, picture: Picture): void {
  const composite = expectedComposite();
  if (!composite) return;
  const { left, top, right, bottom } = frameBounds(onCanvas(composite, layer));
  const { id, name, width, height } = picture;
  const scale = clampedScale(Math.max((right - left) / width, (bottom - top) / height));
  const layer_id = newId();
  const place = composite.layers.findIndex((one) => one.id === layer.id);
  desk.edit({
    kind: "add_layer",
    layer_id,
    picture: id,
    name,
    width,
    height,
    index: place < 0 ? null : place + 1,
    placement: {
      x: (left + right) / 2,
      y: (top + bottom) / 2,
      scale_x: scale,
      scale_y: scale,
      turn: 0,
      flipped: false,
      upended: false,
      crop: null,
      corners: null,
      bend: null,
    },
  });
  desk.edit({ kind: "add_part", layer_id, part: newLayerPart(layer.id) });
  if (!layer.words.contour && !layer.words.panel) {
    desk.edit({ kind: "show_layer", layer_id: layer.id, visible: false });
  }
  useDesk.getState().actions.open(layer_id, "place");
}

interface Picture {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
}
