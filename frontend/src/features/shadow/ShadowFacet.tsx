/** Shadow: what a layer's shape lays beneath it, as lines from back to front. */

import { PHOTO_LAYER } from "@generated/limits";
import { Fragment, type ReactElement } from "react";
import { EffectSettings } from "@/features/shadow/EffectSettings";
import { type Composite, isLocked, type Layer, sheetOf } from "@/model/composite";
import {
  EFFECT_NAMES,
  type EffectKind,
  effectsFor,
  freshEffect,
  openEffectPlace,
  shaded,
} from "@/model/effects";
import { movedTo } from "@/model/tones";
import { useDesk } from "@/state/desk/desk";
import { useComposite } from "@/state/project";
import { LiveWord } from "@/ui/LiveWord";
import { FacetWords } from "@/ui/Words";
import { useDeskActions } from "@/work/DeskContext";
import { useSentence } from "@/work/useSentence";
import { WordLines } from "@/work/WordLines";

interface ShadowFacetProps {
  readonly layer: Layer;
}

export function ShadowFacet({ layer }: ShadowFacetProps): ReactElement | null {
  const composite = useComposite();
  const place = useDesk((desk) => openEffectPlace(layer, desk.line));
  if (!composite) return null;
  const isOff = isLocked(composite, layer.id);
  return (
    <>
      {layer.effects.length > 0 ? <EffectLines layer={layer} isOff={isOff} /> : null}
      {place === null || isOff ? null : <EffectSettings key={place} layer={layer} place={place} />}
      {isOff ? null : <AddLine layer={layer} composite={composite} />}
    </>
  );
}

interface EffectLinesProps extends ShadowFacetProps {
  readonly isOff: boolean;
}

function EffectLines({ layer, isOff }: EffectLinesProps): ReactElement {
  const desk = useDeskActions();
  const { effects: words } = useSentence(layer);
  const open = useDesk((state) => openEffectPlace(layer, state.line));
  const { openLine } = useDesk((state) => state.actions);
  return (
    <WordLines
      label={`Shadows and outlines of ${layer.name}, back to front`}
      lines={layer.effects.map(({ kind, works }, place) => ({
        words: words[place] ?? EFFECT_NAMES.find((one) => one.kind === kind)?.name ?? kind,
        works,
      }))}
      open={open}
      isOff={isOff}
      onOpen={(place) => openLine(place === null ? null : String(place))}
      onMove={(from, to) => {
        desk.edit(shaded(layer, movedTo(layer.effects, from, to)));
        openLine(null);
      }}
    />
  );
}

interface AddLineProps extends ShadowFacetProps {
  readonly composite: Composite;
}

function AddLine({ layer, composite }: AddLineProps): ReactElement {
  const desk = useDeskActions();
  const { openLine } = useDesk((state) => state.actions);
  const most = PHOTO_LAYER.effects.maxItems;
  if (layer.effects.length >= most)
    return <FacetWords>A layer has at most {most} of them.</FacetWords>;
  const add = (kind: EffectKind) => {
    const fresh = freshEffect(kind, sheetOf(composite, layer.id));
    // An outline lies over shadows, unless it is put elsewhere.
    const place = kind === "outline" ? layer.effects.length : 0;
    desk.edit(shaded(layer, layer.effects.toSpliced(place, 0, fresh)));
    openLine(String(place));
  };
  const kinds = effectsFor(layer);
  return (
    <FacetWords>
      {layer.effects.length > 0 ? "Add " : "Its shape throws no shadow. Give it "}
      {kinds.map(({ kind, name }, index) => (
        <Fragment key={kind}>
          <LiveWord onPress={() => add(kind)}>{name}</LiveWord>
          {index === kinds.length - 1 ? "." : index === kinds.length - 2 ? " or " : ", "}
        </Fragment>
      ))}
    </FacetWords>
  );
}
