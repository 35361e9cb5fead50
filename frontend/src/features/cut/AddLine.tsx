/** How a layer is cut, or cut further: what a new part of its mask can be. */

import type { ReactElement } from "react";
import { v4 as newId } from "uuid";
import {
  allLayers,
  type Composite,
  isChanging,
  type Layer,
  membersOf,
  pathTo,
} from "@/model/composite";
import { type Drawn, drawLine, hasColours } from "@/model/drawing";
import { newLayerPart } from "@/model/masks";
import { ownMatte, roughLine } from "@/model/mattes";
import { freshPart } from "@/model/strokes";
import { useDesk } from "@/state/desk/desk";
import { useDrawing } from "@/state/drawing";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { FacetWords } from "@/ui/Words";
import { takeBackdropAway } from "@/work/cutting/cutOut";
import { useDeskActions } from "@/work/DeskContext";

interface Props {
  readonly layer: Layer;
  readonly composite: Composite;
}

export function AddLine({ layer, composite }: Props): ReactElement {
  const desk = useDeskActions();
  const { openLine } = useDesk((state) => state.actions);
  const draw = (kind: Drawn) => {
    // Corners of an outline that was left half drawn belong to no other one.
    useDrawing.getState().setCorners([]);
    openLine(drawLine(kind));
  };
  const hold = (layer_id: string) => {
    const part = newLayerPart(layer_id);
    desk.edit({ kind: "add_part", layer_id: layer.id, part });
    openLine(part.id);
  };
  const around = pathTo(composite.layers, layer.id);
  const inside = allLayers(membersOf(layer));
  const readable = allLayers(composite.layers).filter(
    (one) => !isChanging(one) && !around.includes(one) && !inside.includes(one),
  );
  const others = allLayers(composite.layers).filter((one) => one.id !== layer.id && one.mask);
  return (
    <FacetWords>
      {layer.mask ? "Go on " : "All of it shows. Cut it "}
      {layer.mask && hasColours(layer) && !ownMatte(layer) ? (
        <>
          <LiveWord onPress={() => takeBackdropAway(desk, layer)}>without its backdrop</LiveWord>,{" "}
          <LiveWord onPress={() => openLine(roughLine(newId()))}>by rough strokes</LiveWord>,{" "}
        </>
      ) : null}
      <LiveWord onPress={() => openLine(freshPart(newId()))}>by brush</LiveWord>, with{" "}
      <LiveWord onPress={() => draw("ellipse")}>a circle</LiveWord>,{" "}
      <LiveWord onPress={() => draw("rectangle")}>a rectangle</LiveWord> or{" "}
      <LiveWord onPress={() => draw("outline")}>an outline</LiveWord>
      {hasColours(layer) ? (
        <>
          , by <LiveWord onPress={() => draw("even")}>an even colour</LiveWord>
        </>
      ) : null}
      , or hold it in{" "}
      <LiveSelect
        label="Hold it in the shape of"
        value=""
        fallback="another layer"
        choices={readable.map((one) => ({ id: one.id, label: one.name }))}
        onChange={hold}
      />
      {others.length > 0 ? (
        <>
          , or take the cut of{" "}
          <LiveSelect
            label="Take the cut of"
            value=""
            fallback="another one"
            choices={others.map((one) => ({ id: one.id, label: one.name }))}
            onChange={(from_id) => desk.edit({ kind: "copy_mask", layer_id: layer.id, from_id })}
          />
        </>
      ) : null}
      .
    </FacetWords>
  );
}
