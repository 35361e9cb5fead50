/** Sliders of a tone's numbers. */

import type { ReactElement } from "react";
import type { Setting } from "@/features/tone/useSetting";
import { FRESH_TONES, TONE_LIMITS, type ToneKind, type ToneOf } from "@/model/tones";
import { type NumberLimits, type NumberSlider, NumberSliders } from "@/ui/NumberSliders";

/** The fields of a tone that are numbers. */
export type NumberField<Kind extends ToneKind> = {
  [Field in keyof ToneOf<Kind>]: ToneOf<Kind>[Field] extends number ? Field : never;
}[keyof ToneOf<Kind>] &
  string;

export type ToneSlider<Kind extends ToneKind> = NumberSlider<NumberField<Kind>>;

interface ToneSlidersProps<Kind extends ToneKind> {
  readonly setting: Setting<Kind>;
  readonly sliders: readonly ToneSlider<Kind>[];
}

export function ToneSliders<Kind extends ToneKind>(props: ToneSlidersProps<Kind>): ReactElement {
  const { setting, sliders } = props;
  const { kind } = setting.tone;
  return (
    <NumberSliders
      sliders={sliders}
      values={setting.tone as unknown as Readonly<Record<string, number>>}
      limits={(TONE_LIMITS[kind] ?? {}) as Readonly<Record<string, NumberLimits>>}
      fresh={FRESH_TONES[kind] as unknown as Readonly<Record<string, number>>}
      onPreview={(changes) => setting.preview(changes as Partial<ToneOf<Kind>>)}
      onTake={(changes) => setting.take(changes as Partial<ToneOf<Kind>>)}
    />
  );
}

/** A slider of a share, in percent. */
export function asShare<Kind extends ToneKind>(
  field: NumberField<Kind>,
  label: string,
): ToneSlider<Kind> {
  return { field, label, unit: "%", scale: 100 };
}
