/** The settings of one shadow or outline. */

import type { ReactElement } from "react";
import type { Effect, Layer } from "@/model/composite";
import { EFFECT_LIMITS, type EffectKind, FRESH_EFFECTS, shaded } from "@/model/effects";
import { useDesk } from "@/state/desk/desk";
import { useCalmLive } from "@/state/useCalmLive";
import { QuietButton } from "@/ui/Button";
import { FieldRow, Fields } from "@/ui/Fields";
import { type NumberLimits, type NumberSlider, NumberSliders } from "@/ui/NumberSliders";
import { Tick } from "@/ui/Tick";
import { useDeskActions } from "@/work/DeskContext";
import { LayerColor } from "@/work/LayerColor";

const share = (field: string, label: string): NumberSlider => ({
  field,
  label,
  unit: "%",
  scale: 100,
});
const degrees = (field: string, label: string): NumberSlider => ({
  field,
  label,
  unit: "°",
  scale: 1,
});
const pixels = (field: string, label: string, usual: number): NumberSlider => ({
  field,
  label,
  unit: "px",
  scale: 1,
  usual,
});

const SLIDERS: { readonly [Kind in EffectKind]: readonly NumberSlider[] } = {
  cast: [
    degrees("direction", "Falls to"),
    share("length", "Length"),
    share("strength", "Strength"),
    share("softness", "Softness"),
    share("fading", "Fades by"),
    share("contact", "Contact"),
    share("foot", "Its width"),
    degrees("tilt", "Ground"),
    share("lift", "Higher"),
  ],
  soft: [
    degrees("angle", "Falls to"),
    pixels("distance", "Distance", 200),
    pixels("softness", "Softness", 200),
    share("strength", "Strength"),
  ],
  outline: [
    pixels("width", "Width", 100),
    pixels("softness", "Softness", 60),
    share("strength", "Strength"),
  ],
};

interface EffectSettingsProps {
  readonly layer: Layer;
  readonly place: number;
}

export function EffectSettings({ layer, place }: EffectSettingsProps): ReactElement | null {
  const desk = useDeskActions();
  const live = useCalmLive();
  const { setLive, openLine } = useDesk((state) => state.actions);
  const kept = layer.effects[place];
  if (!kept) return null;
  const isLive = live?.kind === "shade_layer" && live.layer_id === layer.id;
  const shown = (isLive ? live.effects[place] : undefined) ?? kept;
  const changed = (changes: Partial<Effect>) =>
    shaded(layer, layer.effects.with(place, { ...kept, ...changes } as Effect));
  const preview = (changes: Partial<Effect>) => setLive(changed(changes));
  const take = (changes: Partial<Effect>) => {
    setLive(null);
    const isNew = Object.entries(changes).some(([field, to]) => Reflect.get(kept, field) !== to);
    if (isNew) desk.edit(changed(changes));
  };
  return (
    <Fields>
      <NumberSliders
        sliders={SLIDERS[kept.kind]}
        values={shown as unknown as Readonly<Record<string, number>>}
        limits={EFFECT_LIMITS[kept.kind] as Readonly<Record<string, NumberLimits>>}
        fresh={FRESH_EFFECTS[kept.kind] as unknown as Readonly<Record<string, number>>}
        onPreview={(changes) => preview(changes as Partial<Effect>)}
        onTake={(changes) => take(changes as Partial<Effect>)}
      />
      <LayerColor
        layer={layer}
        value={shown.color}
        isOff={false}
        onPreview={(color) => preview({ color })}
        onTake={(color) => take({ color })}
      />
      <FieldRow>
        <Tick isSelected={kept.works} onChange={(works) => take({ works })}>
          At work
        </Tick>
        <QuietButton
          onPress={() => {
            desk.edit(shaded(layer, layer.effects.toSpliced(place, 1)));
            openLine(null);
          }}
        >
          Take it away
        </QuietButton>
      </FieldRow>
    </Fields>
  );
}
