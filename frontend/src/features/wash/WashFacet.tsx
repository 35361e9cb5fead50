/** Wash: the colours of a colour or gradient layer, and how a gradient runs. */

import { GRADIENT } from "@generated/limits";
import type { ReactElement } from "react";
import styled from "styled-components";
import {
  type Gradient,
  type GradientLayer,
  isLocked,
  type Stop,
  type WashLayer,
} from "@/model/composite";
import { exchanged } from "@/model/gradients";
import { useDesk } from "@/state/desk/desk";
import { useComposite } from "@/state/project";
import { useCalmLive } from "@/state/useCalmLive";
import { color } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { NumberGrid } from "@/ui/NumberGrid";
import { ColorWash } from "@/work/ColorWash";
import { useDeskActions } from "@/work/DeskContext";
import { LayerColor } from "@/work/LayerColor";

const End = styled.fieldset`
  display: grid;
  gap: 6px;
  min-width: 0;
  margin: 0;
  padding: 0 0 4px;
  border: 0;

  > legend {
    padding: 0 0 2px;
    color: ${color.softInk};
    font-weight: 650;
  }
`;

const SHAPES = [
  { id: "linear", label: "Straight" },
  { id: "round", label: "Round" },
] as const;

const PERCENT = 100;

export function WashFacet({ layer }: { readonly layer: WashLayer }): ReactElement | null {
  const composite = useComposite();
  if (!composite) return null;
  const isOff = isLocked(composite, layer.id);
  return layer.kind === "color" ? (
    <ColorWash layer={layer} isOff={isOff} />
  ) : (
    <GradientWash layer={layer} isOff={isOff} />
  );
}

function GradientWash({ layer, isOff }: { layer: GradientLayer; isOff: boolean }): ReactElement {
  const desk = useDeskActions();
  const live = useCalmLive();
  const { setLive } = useDesk((state) => state.actions);
  const isLive = live?.kind === "grade_layer" && live.layer_id === layer.id;
  const shown = isLive ? live.gradient : layer.gradient;
  const editOf = (changes: Partial<Gradient>) =>
    ({
      kind: "grade_layer",
      layer_id: layer.id,
      gradient: { ...layer.gradient, ...changes },
    }) as const;
  const preview = (changes: Partial<Gradient>) => setLive(editOf(changes));
  const take = (changes: Partial<Gradient>) => {
    setLive(null);
    desk.edit(editOf(changes));
  };
  const ends = { layer, shown, isOff, onPreview: preview, onTake: take } as const;
  return (
    <>
      <Choice
        label="How it runs"
        value={shown.shape}
        choices={SHAPES}
        isDisabled={isOff}
        onChange={(shape) => shape !== layer.gradient.shape && take({ shape })}
      />
      <GradientEnd {...ends} which="start" title="From" />
      <GradientEnd {...ends} which="end" title="To" />
      <PlainButton isDisabled={isOff} onPress={() => take(exchanged(layer.gradient))}>
        Exchange its ends
      </PlainButton>
      <GradientNumbers shown={shown} isOff={isOff} onTake={take} />
    </>
  );
}

interface GradientEndProps {
  readonly layer: GradientLayer;
  readonly shown: Gradient;
  readonly which: "start" | "end";
  readonly title: string;
  readonly isOff: boolean;
  onPreview(changes: Partial<Gradient>): void;
  onTake(changes: Partial<Gradient>): void;
}

function GradientEnd(props: GradientEndProps): ReactElement {
  const { layer, shown, which, title, isOff, onPreview, onTake } = props;
  const stop = shown[which];
  const changed = (changes: Partial<Stop>) => ({ [which]: { ...stop, ...changes } });
  return (
    <End>
      <legend>{title}</legend>
      <LayerColor
        {...{ layer, isOff }}
        of={title}
        value={stop.color}
        onPreview={(chosen) => onPreview(changed({ color: chosen }))}
        onTake={(chosen) => onTake(changed({ color: chosen }))}
      />
      <LabelledSlider
        label="Strength"
        value={Math.round(stop.opacity * PERCENT)}
        min={0}
        max={100}
        unit="%"
        fallback={100}
        isDisabled={isOff}
        onChange={(percent) => onPreview(changed({ opacity: percent / PERCENT }))}
        onChangeEnd={(percent) => onTake(changed({ opacity: percent / PERCENT }))}
      />
    </End>
  );
}

interface GradientNumbersProps {
  readonly shown: Gradient;
  readonly isOff: boolean;
  onTake(changes: Partial<Gradient>): void;
}

function GradientNumbers({ shown, isOff, onTake }: GradientNumbersProps): ReactElement {
  const place = [
    { label: "Across", value: shown.x, limits: GRADIENT.x, onChange: (x: number) => onTake({ x }) },
    { label: "Down", value: shown.y, limits: GRADIENT.y, onChange: (y: number) => onTake({ y }) },
    {
      label: "Length",
      value: shown.length,
      limits: GRADIENT.length,
      onChange: (length: number) => onTake({ length }),
    },
  ];
  const angle = {
    label: "Angle",
    unit: "°",
    value: shown.angle,
    limits: GRADIENT.angle,
    onChange: (value: number) => onTake({ angle: value }),
  };
  const numbers = shown.shape === "linear" ? [...place, angle] : place;
  return <NumberGrid numbers={numbers} isDisabled={isOff} />;
}
