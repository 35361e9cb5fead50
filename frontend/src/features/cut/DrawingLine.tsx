/** What is to be drawn on the stage next, and how it is done without a pointer. */

import type { ReactElement } from "react";
import { type Composite, type Layer, type MaskPart, sheetOf } from "@/model/composite";
import { type Drawn, diamondIn, hasColours, newEven, newOutline } from "@/model/drawing";
import { maskLying } from "@/model/lying";
import { EMPTY_MASK, newShape } from "@/model/masks";
import { seenPart } from "@/model/reaching";
import { useDesk } from "@/state/desk/desk";
import { useDrawing } from "@/state/drawing";
import { LiveWord } from "@/ui/LiveWord";
import { FacetWords } from "@/ui/Words";
import { useDeskActions } from "@/work/DeskContext";

const DRAW = {
  ellipse: "Draw the circle on the picture: press and drag",
  rectangle: "Draw the rectangle on the picture: press and drag",
  outline:
    "Click from corner to corner on the picture, or drag a free line; the first corner closes it",
  even: "Click a colour in the picture; drag sideways for more or less of it",
} as const;

interface DrawingLineProps {
  readonly layer: Layer;
  readonly composite: Composite;
  readonly drawn: Drawn;
}

export function DrawingLine({ layer, composite, drawn }: DrawingLineProps): ReactElement {
  const desk = useDeskActions();
  const { openLine } = useDesk((state) => state.actions);
  const { setCorners } = useDrawing.getState();
  const leave = (line: string | null) => {
    setCorners([]);
    openLine(line);
  };
  const put = () => {
    const part = inTheMiddle(composite, layer, drawn);
    if (!part) return;
    desk.edit({ kind: "add_part", layer_id: layer.id, part });
    leave(part.id);
  };
  return (
    <FacetWords>
      {DRAW[drawn]}. Or {drawn === "even" ? "take the one " : "begin with one "}
      <LiveWord onPress={put}>in the middle</LiveWord>, or{" "}
      <LiveWord onPress={() => leave(null)}>leave it</LiveWord>.
    </FacetWords>
  );
}

/** Return what is drawn without a pointer: a part in the middle of what is seen. */
function inTheMiddle(composite: Composite, layer: Layer, drawn: Drawn): MaskPart | null {
  const sheet = sheetOf(composite, layer.id);
  if (drawn === "outline") return newOutline(layer, diamondIn(layer, sheet));
  if (drawn !== "even") return newShape(layer, sheet, drawn);
  if (!hasColours(layer)) return null;
  const lying = maskLying(composite, layer, layer.mask ?? EMPTY_MASK);
  return newEven(composite, layer, lying, lying.toCanvas(seenPart(layer, sheet).middle));
}
