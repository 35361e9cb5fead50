/** Laying words on, and typing them. */

import { v4 as newId } from "uuid";
import type { WordsLayer } from "@/model/composite";
import { isLocked } from "@/model/composite";
import type { Point } from "@/model/points";
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
