/** Fade: where the layer is full and where it is gone, in words and numbers. */

import { FADE } from "@generated/limits";
import { Fragment, type ReactElement, useState } from "react";
import styled from "styled-components";
import {
  allLayers,
  type Composite,
  type Fade,
  isLocked,
  isPlaced,
  type Layer,
  sheetOf,
  siblingsOf,
} from "@/model/composite";
import { firstFade, meltTogether, openFadePlace, tryFades, withFade } from "@/model/fades";
import { useDesk } from "@/state/desk/desk";
import { useComposite } from "@/state/project";
import { useCalmLive } from "@/state/useCalmLive";
import { color, font } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { FieldRow, Fields } from "@/ui/Fields";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { NumberGrid } from "@/ui/NumberGrid";
import { Tick } from "@/ui/Tick";
import { beneath } from "@/work/commands";
import { useDeskActions } from "@/work/DeskContext";
import { useSentence } from "@/work/useSentence";

const Words = styled.p`
  font-family: ${font.reading};
  font-size: 15px;
  line-height: 1.45;
`;

const Line = styled.div`
  padding: 4px 10px;
  border-left: 3px solid transparent;
  font-family: ${font.reading};
  font-size: 15px;

  &[data-open="true"] {
    border-left-color: ${color.veil};
    background: ${color.veilWash};
  }
`;

const CURVES = [
  { id: "even", label: "Even" },
  { id: "gentle", label: "Gentle" },
  { id: "early", label: "Early" },
  { id: "late", label: "Late" },
] as const;

const PERCENT = 100;

export function FadeFacet({ layer }: { readonly layer: Layer }): ReactElement | null {
  const composite = useComposite();
  const desk = useDeskActions();
  const { fades: words } = useSentence(layer);
  const open = useDesk((state) => openFadePlace(layer, state.line));
  const { openLine } = useDesk((state) => state.actions);
  if (!composite) return null;
  const isOff = isLocked(composite, layer.id);
  const add = () => {
    const fade = firstFade(layer, sheetOf(composite, layer.id));
    desk.edit(tryFades(layer, [...layer.fades, fade]));
    openLine(String(layer.fades.length));
  };
  return (
    <>
      {layer.fades.map((fade, place) => (
        // A fade is known by its place alone.
        // biome-ignore lint/suspicious/noArrayIndexKey: see above
        <div key={place}>
          <Line data-open={place === open}>
            Out{" "}
            <LiveWord isExpanded={place === open} onPress={() => openLine(String(place))}>
              {words[place] ?? "…"}
            </LiveWord>
            {isPlaced(layer) ? <Moving layer={layer} place={place} fade={fade} /> : null}
          </Line>
          {place === open && !isOff ? <FadeSettings layer={layer} place={place} /> : null}
        </div>
      ))}
      {isOff ? null : (
        <Words>
          <LiveWord onPress={add}>
            {layer.fades.length > 0 ? "Add another fade" : "Fade it out"}
          </LiveWord>
          <TakeFrom layer={layer} composite={composite} />.
        </Words>
      )}
      {isOff ? null : <MeltInto layer={layer} composite={composite} />}
    </>
  );
}

const MOVING = [
  { id: "with", label: "moving with the layer" },
  { id: "alone", label: "staying where it is" },
] as const;

interface MovingProps {
  readonly layer: Layer;
  readonly place: number;
  readonly fade: Fade;
}

function Moving({ layer, place, fade }: MovingProps): ReactElement {
  const desk = useDeskActions();
  return (
    <>
      ,{" "}
      <LiveSelect
        label="What the fade moves with"
        value={fade.linked ? "with" : "alone"}
        choices={MOVING}
        onChange={(id) =>
          desk.edit({ kind: "link_fade", layer_id: layer.id, place, linked: id === "with" })
        }
      />
    </>
  );
}

interface FadeSettingsProps {
  readonly layer: Layer;
  readonly place: number;
}

function FadeSettings({ layer, place }: FadeSettingsProps): ReactElement | null {
  const desk = useDeskActions();
  const live = useCalmLive();
  const { setLive, openLine } = useDesk((state) => state.actions);
  const isLive = live?.kind === "fade_layer" && live.layer_id === layer.id;
  const fade = (isLive ? live.fades : layer.fades)[place];
  const kept = layer.fades[place];
  if (!fade || !kept) return null;
  const editOf = (changes: Partial<Fade>) =>
    tryFades(layer, withFade(layer, place, { ...kept, ...changes }));
  const take = (changes: Partial<Fade>) => {
    setLive(null);
    desk.edit(editOf(changes));
  };
  return (
    <Fields>
      <Choice
        label="How it goes"
        value={fade.curve}
        choices={CURVES}
        onChange={(curve) => curve !== kept.curve && take({ curve })}
      />
      <FadeNumbers fade={fade} onTake={take} />
      {fade.shape === "line" ? null : (
        <LabelledSlider
          label="Full"
          value={Math.round(fade.full * PERCENT)}
          min={0}
          max={99}
          unit="%"
          fallback={40}
          onChange={(full) => setLive(editOf({ full: full / PERCENT }))}
          onChangeEnd={(full) => take({ full: full / PERCENT })}
        />
      )}
      {fade.shape === "sides" ? (
        <LabelledSlider
          label="Corners"
          value={Math.round(fade.roundness * PERCENT)}
          min={0}
          max={100}
          unit="%"
          fallback={30}
          onChange={(roundness) => setLive(editOf({ roundness: roundness / PERCENT }))}
          onChangeEnd={(roundness) => take({ roundness: roundness / PERCENT })}
        />
      ) : null}
      <FieldRow>
        <Tick isSelected={fade.inward} onChange={(inward) => take({ inward })}>
          The other way round
        </Tick>
        <QuietButton
          onPress={() => {
            desk.edit(
              tryFades(
                layer,
                layer.fades.filter((_, index) => index !== place),
              ),
            );
            openLine(null);
          }}
        >
          Take this fade away
        </QuietButton>
      </FieldRow>
    </Fields>
  );
}

interface FadeNumbersProps {
  readonly fade: Fade;
  onTake(changes: Partial<Fade>): void;
}

function FadeNumbers({ fade, onTake }: FadeNumbersProps): ReactElement {
  const numbers = [
    { label: "Across", value: fade.x, limits: FADE.x, onChange: (x: number) => onTake({ x }) },
    { label: "Down", value: fade.y, limits: FADE.y, onChange: (y: number) => onTake({ y }) },
    {
      label: "Length",
      value: fade.length,
      limits: FADE.length,
      onChange: (length: number) => onTake({ length }),
    },
    {
      label: "Angle",
      unit: "°",
      value: fade.angle,
      limits: FADE.angle,
      onChange: (angle: number) => onTake({ angle }),
    },
  ];
  return <NumberGrid numbers={numbers} />;
}

interface ForLayerProps {
  readonly layer: Layer;
  readonly composite: Composite;
}

/** Offer the fades of another layer. */
function TakeFrom({ layer, composite }: ForLayerProps): ReactElement | null {
  const desk = useDeskActions();
  const others = allLayers(composite.layers).filter(
    (one) => one.id !== layer.id && one.fades.length > 0,
  );
  if (others.length === 0) return null;
  return (
    <>
      , or take those of{" "}
      <LiveSelect
        label="Take the fades of"
        value=""
        fallback="another layer"
        choices={others.map((one) => ({ id: one.id, label: one.name }))}
        onChange={(from_id) => desk.edit({ kind: "copy_fades", layer_id: layer.id, from_id })}
      />
    </>
  );
}

/** Offer to melt a photo into the one beneath it, and into others of its pile. */
function MeltInto({ layer, composite }: ForLayerProps): ReactElement | null {
  const desk = useDeskActions();
  const [chosen, setChosen] = useState<readonly string[] | null>(null);
  const photos = siblingsOf(composite, layer.id).filter(
    (one) => one.kind === "photo" && one.id !== layer.id && !isLocked(composite, one.id),
  );
  const below = photos.find((one) => one === beneath(composite, layer));
  const others = chosen ?? (below ? [below.id] : []);
  const taken = photos.filter((one) => others.includes(one.id));
  const left = photos.filter((one) => !others.includes(one.id));
  if (layer.kind !== "photo" || photos.length === 0) return null;
  const melt = (axis: "across" | "down") => {
    const ids = [...taken.map((one) => one.id), layer.id];
    desk.edit(meltTogether(ids, axis, composite.canvas));
  };
  return (
    <Words>
      Melt it into{" "}
      {taken.map((one) => (
        <Fragment key={one.id}>
          <LiveWord
            label={`Without ${one.name}`}
            onPress={() => setChosen(others.filter((id) => id !== one.id))}
          >
            {one.name}
          </LiveWord>
          {one === taken.at(-1) ? "" : " and "}
        </Fragment>
      ))}
      {left.length > 0 ? (
        <>
          {taken.length > 0 ? ", with " : ""}
          <LiveSelect
            label="Melt it with one more"
            value=""
            fallback={taken.length > 0 ? "one more" : "another photo"}
            choices={left.map((one) => ({ id: one.id, label: one.name }))}
            onChange={(id) => setChosen([...others, id])}
          />
        </>
      ) : null}
      {taken.length > 0 ? (
        <>
          : <LiveWord onPress={() => melt("across")}>side by side</LiveWord> or{" "}
          <LiveWord onPress={() => melt("down")}>one above the other</LiveWord>; where one goes, the
          next takes over
        </>
      ) : null}
      .
    </Words>
  );
}
