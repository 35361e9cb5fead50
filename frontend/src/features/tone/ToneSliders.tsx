/** Sliders of a tone's numbers, each said as people count them. */

import type { ReactElement } from "react";
import type { Setting } from "@/features/tone/useSetting";
import { FRESH_TONES, type ToneKind, type ToneOf } from "@/model/tones";
import { LabelledSlider } from "@/ui/LabelledSlider";

/** The fields of a tone that are numbers. */
export type NumberField<Kind extends ToneKind> = {
  [Field in keyof ToneOf<Kind>]: ToneOf<Kind>[Field] extends number ? Field : never;
}[keyof ToneOf<Kind>] &
  string;

export interface ToneSlider<Kind extends ToneKind> {
  readonly field: NumberField<Kind>;
  readonly label: string;
  readonly min: number;
  readonly max: number;
  readonly unit: string;
  /** How many of what is shown make one of what is stored. */
  readonly scale: number;
  readonly step?: number;
}

interface ToneSlidersProps<Kind extends ToneKind> {
  readonly setting: Setting<Kind>;
  readonly sliders: readonly ToneSlider<Kind>[];
}

export function ToneSliders<Kind extends ToneKind>(props: ToneSlidersProps<Kind>): ReactElement {
  const { setting, sliders } = props;
  const values = setting.tone as unknown as Readonly<Record<string, number>>;
  const fresh = FRESH_TONES[setting.tone.kind] as unknown as Readonly<Record<string, number>>;
  return (
    <>
      {sliders.map(({ field, label, min, max, unit, scale, step = 1 }) => {
        const changed = (shown: number) => ({ [field]: shown / scale }) as Partial<ToneOf<Kind>>;
        const shownOf = (value: number) => Math.round((value * scale) / step) * step;
        return (
          <LabelledSlider
            key={field}
            label={label}
            value={shownOf(values[field] ?? 0)}
            min={min}
            max={max}
            step={step}
            unit={unit}
            fallback={shownOf(fresh[field] ?? 0)}
            onChange={(shown) => setting.preview(changed(shown))}
            onChangeEnd={(shown) => setting.take(changed(shown))}
          />
        );
      })}
    </>
  );
}

/** A slider from -100 to 100 of a share. */
export function either<Kind extends ToneKind>(
  field: NumberField<Kind>,
  label: string,
): ToneSlider<Kind> {
  return { field, label, min: -100, max: 100, unit: "%", scale: 100 };
}
