/** Cut: what of the layer shows, as a recipe of parts that is read from top to bottom. */

import { type ReactElement, type RefObject, useEffect, useRef } from "react";
import { AddLine } from "@/features/cut/AddLine";
import { BackdropOffer, FindingNow } from "@/features/cut/BackdropOffer";
import { BrushSettings } from "@/features/cut/BrushSettings";
import { DrawingLine } from "@/features/cut/DrawingLine";
import { MatteSettings } from "@/features/cut/MatteSettings";
import { MendFacet } from "@/features/cut/MendFacet";
import { PartActions, PartSettings } from "@/features/cut/PartSettings";
import { Recipe, useOpenPart } from "@/features/cut/Recipe";
import { WholeLine } from "@/features/cut/WholeLine";
import {
  type Composite,
  isLocked,
  type Layer,
  type MaskPart,
  type PhotoLayer,
} from "@/model/composite";
import { drawnKind, hasColours } from "@/model/drawing";
import { isRough, openMatte } from "@/model/mattes";
import { isMending } from "@/model/mends";
import { brushPart } from "@/model/strokes";
import { useDesk } from "@/state/desk/desk";
import { useComposite } from "@/state/project";
import { ColorWash } from "@/work/ColorWash";
import { GroupBackdrops } from "@/work/cutting/ManyCuts";

interface Props {
  readonly layer: Layer;
  readonly composite: Composite;
}

export function CutFacet({ layer }: { readonly layer: Layer }): ReactElement | null {
  const composite = useComposite();
  const isMendingNow = useDesk((desk) => isMending(layer, desk.line));
  if (!composite) return null;
  const isOff = isLocked(composite, layer.id);
  return (
    <>
      {isOff || layer.kind !== "mending" ? null : <MendFacet layer={layer} />}
      {layer.mask ? <Recipe layer={layer} mask={layer.mask} isOff={isOff} /> : null}
      {isOff || isMendingNow ? null : <Worked layer={layer} composite={composite} />}
      {isOff || layer.kind !== "photo" ? null : <MendFacet layer={layer} />}
    </>
  );
}

function Worked({ layer, composite }: Props): ReactElement {
  const part = useOpenPart(layer);
  const brush = useDesk((desk) => brushPart(layer, desk.line));
  const drawn = useDesk((desk) => drawnKind(desk.line));
  const isOpen = part !== undefined && (brush === null || brush === part.id);
  const words = useFocusKept(drawn);
  return (
    <>
      {drawn || brush ? null : <Backdrop composite={composite} layer={layer} />}
      {brush ? <InHand layer={layer} /> : null}
      {isOpen && !drawn ? <OpenPart layer={layer} part={part} /> : null}
      <div ref={words}>
        {drawn ? (
          <DrawingLine layer={layer} composite={composite} drawn={drawn} />
        ) : (
          <AddLine layer={layer} composite={composite} />
        )}
      </div>
      {layer.mask && !drawn ? <WholeLine layer={layer} mask={layer.mask} /> : null}
    </>
  );
}

/** The brush, and the colour that it paints with. */
function InHand({ layer }: { readonly layer: Layer }): ReactElement {
  return (
    <>
      {layer.kind === "color" ? <ColorWash layer={layer} isOff={false} /> : null}
      <BrushSettings />
    </>
  );
}

/** Offer to take the backdrop away, or, once rough strokes are to come, show their brush. */
function Backdrop({ composite, layer }: Props): ReactElement | null {
  if (layer.kind === "group") return <GroupBackdrops composite={composite} group={layer} />;
  return hasColours(layer) ? <PhotoBackdrop layer={layer} /> : null;
}

function PhotoBackdrop({ layer }: { readonly layer: PhotoLayer }): ReactElement | null {
  const isRoughNow = useDesk((desk) => isRough(layer, desk.line));
  const open = useDesk((desk) => openMatte(layer, desk.line));
  if (isRoughNow) return open ? null : <MatteSettings layer={layer} part={null} />;
  // Beside other parts it is one more way to go on, and is said with those.
  return layer.mask ? <FindingNow layer={layer} /> : <BackdropOffer layer={layer} />;
}

/** Keep the focus where words are exchanged for others: what had it is gone then. */
function useFocusKept(words: string | null): RefObject<HTMLDivElement | null> {
  const element = useRef<HTMLDivElement>(null);
  const before = useRef(words);
  useEffect(() => {
    const isLost = document.activeElement === document.body;
    if (before.current !== words && isLost) {
      element.current?.querySelector<HTMLElement>("[role=button],button")?.focus();
    }
    before.current = words;
  }, [words]);
  return element;
}

interface OpenPartProps {
  readonly layer: Layer;
  readonly part: MaskPart;
}

function OpenPart({ layer, part }: OpenPartProps): ReactElement {
  return (
    <>
      <PartSettings layer={layer} part={part} />
      <PartActions layer={layer} part={part} />
    </>
  );
}
