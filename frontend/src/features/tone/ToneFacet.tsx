/** Tone: how light and of what colour a layer is, as lines that are worked in order. */

import { PHOTO_LAYER } from "@generated/limits";
import { Fragment, type ReactElement } from "react";
import { MatchOffer } from "@/features/tone/MatchOffer";
import { PaintColor } from "@/features/tone/PaintColor";
import { ToneSettings } from "@/features/tone/ToneSettings";
import {
  allLayers,
  type Composite,
  isLocked,
  isPlaced,
  isToned,
  type TonedLayer,
} from "@/model/composite";
import {
  freshTone,
  movedTo,
  openTonePlace,
  TONE_NAMES,
  type ToneKind,
  toned,
  withTone,
} from "@/model/tones";
import { useDesk } from "@/state/desk/desk";
import { useComposite } from "@/state/project";
import { QuietButton } from "@/ui/Button";
import { FieldRow, Fields } from "@/ui/Fields";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { Tick } from "@/ui/Tick";
import { FacetWords } from "@/ui/Words";
import { useDeskActions } from "@/work/DeskContext";
import { useSentence } from "@/work/useSentence";
import { WordLines } from "@/work/WordLines";

interface ToneFacetProps {
  readonly layer: TonedLayer;
}

export function ToneFacet({ layer }: ToneFacetProps): ReactElement | null {
  const composite = useComposite();
  const place = useDesk((desk) => openTonePlace(layer, desk.line));
  if (!composite) return null;
  const isOff = isLocked(composite, layer.id);
  return (
    <>
      {layer.tones.length > 0 ? <ToneLines layer={layer} isOff={isOff} /> : null}
      {place === null || isOff ? null : <OpenTone key={place} layer={layer} place={place} />}
      {isOff ? null : <AddLine layer={layer} composite={composite} />}
    </>
  );
}

interface ToneLinesProps extends ToneFacetProps {
  readonly isOff: boolean;
}

function ToneLines({ layer, isOff }: ToneLinesProps): ReactElement {
  const desk = useDeskActions();
  const { tones: words } = useSentence(layer);
  const open = useDesk((state) => openTonePlace(layer, state.line));
  const { openLine } = useDesk((state) => state.actions);
  return (
    <WordLines
      label={`Tones of ${layer.name}`}
      lines={layer.tones.map(({ kind, works }, place) => ({
        words: words[place] ?? nameOf(kind),
        works,
      }))}
      open={open}
      isOff={isOff}
      onOpen={(place) => openLine(place === null ? null : String(place))}
      onMove={(from, to) => {
        desk.edit(toned(layer, movedTo(layer.tones, from, to)));
        openLine(null);
      }}
    />
  );
}

function nameOf(kind: ToneKind): string {
  return TONE_NAMES.find((one) => one.kind === kind)?.name ?? kind;
}

interface OpenToneProps extends ToneFacetProps {
  readonly place: number;
}

/** What is set of the open tone, and what can be done with it as a whole. */
function OpenTone({ layer, place }: OpenToneProps): ReactElement | null {
  const desk = useDeskActions();
  const { openLine } = useDesk((state) => state.actions);
  const tone = layer.tones[place];
  if (!tone) return null;
  return (
    <Fields>
      <ToneSettings layer={layer} place={place} />
      <FieldRow>
        <Tick
          isSelected={tone.works}
          onChange={(works) => desk.edit(toned(layer, withTone(layer, place, { ...tone, works })))}
        >
          At work
        </Tick>
        <QuietButton
          onPress={() => {
            desk.edit(
              toned(
                layer,
                layer.tones.filter((_, index) => index !== place),
              ),
            );
            openLine(null);
          }}
        >
          Take this tone away
        </QuietButton>
      </FieldRow>
    </Fields>
  );
}

interface AddLineProps extends ToneFacetProps {
  readonly composite: Composite;
}

function AddLine({ layer, composite }: AddLineProps): ReactElement | null {
  const desk = useDeskActions();
  const { openLine } = useDesk((state) => state.actions);
  const add = (kind: ToneKind) => {
    desk.edit(toned(layer, [...layer.tones, freshTone(kind)]));
    openLine(String(layer.tones.length));
  };
  const others = allLayers(composite.layers).filter(
    (one) => one.id !== layer.id && isToned(one) && one.tones.length > 0,
  );
  const isFull = layer.tones.length >= PHOTO_LAYER.tones.maxItems;
  return (
    <FacetWords>
      {isFull ? null : <MatchOffer layer={layer} composite={composite} />}
      {isFull ? `A layer has at most ${PHOTO_LAYER.tones.maxItems} tones` : "Add "}
      {isFull
        ? null
        : TONE_NAMES.map(({ kind, name }, index) => (
            <Fragment key={kind}>
              <LiveWord onPress={() => add(kind)}>{name}</LiveWord>
              {separator(index, TONE_NAMES.length)}
            </Fragment>
          ))}
      {others.length > 0 ? (
        <>
          ; or take all tones of{" "}
          <LiveSelect
            label="Take the tones of"
            value=""
            fallback="another layer"
            choices={others.map((one) => ({ id: one.id, label: one.name }))}
            onChange={(from_id) => desk.edit({ kind: "copy_tones", layer_id: layer.id, from_id })}
          />
        </>
      ) : null}
      .
      {isPlaced(layer) ? (
        <>
          {" "}
          <PaintColor layer={layer} />
        </>
      ) : null}
    </FacetWords>
  );
}

function separator(index: number, count: number): string {
  if (index === count - 1) return "";
  return index === count - 2 ? " or " : ", ";
}
