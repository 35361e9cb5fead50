/** Sliders of a tone's numbers, each said as people count them. */

import type { ReactElement } from "react";
import type { Setting } from "@/features/tone/useSetting";
import { FRESH_TONES, TONE_LIMITS, type ToneKind, type ToneOf } from "@/model/tones";
import { LabelledSlider } from "@/ui/LabelledSlider";

/** The fields of a tone that are numbers. */
export type NumberField<Kind extends ToneKind> = {
  [Field in keyof ToneOf<Kind>]: ToneOf<Kind>[Field] extends number ? Field : never;
}[keyof ToneOf<Kind>] &
  string;

export interface ToneSlider<Kind extends ToneKind> {
  readonly field: NumberField<Kind>;
  readonly label: string;
  readonly unit: string;
  /** How many of what is shown make one of what is stored. */
  readonly scale: number;
  readonly step?: number;
}

interface Limits {
  readonly minimum?: number;
  readonly maximum?: number;
  readonly exclusiveMaximum?: number;
}

/** Return the highest value that may be set; one step less where it is itself beyond. */
function highest(limits: Limits | undefined, step: number): number {
  return limits?.maximum ?? (limits?.exclusiveMaximum ?? 0) - step;
}

interface ToneSlidersProps<Kind extends ToneKind> {
  readonly setting: Setting<Kind>;
  readonly sliders: readonly ToneSlider<Kind>[];
}

export function ToneSliders<Kind extends ToneKind>(props: ToneSlidersProps<Kind>): ReactElement {
  const { setting, sliders } = props;
  const values = setting.tone as unknown as Readonly<Record<string, number>>;
  const limits = (TONE_LIMITS[setting.tone.kind] ?? {}) as Readonly<Record<string, Limits>>;
  const fresh = FRESH_TONES[setting.tone.kind] as unknown as Readonly<Record<string, number>>;
  return (
    <>
      {sliders.map(({ field, label, unit, scale, step = 1 }) => {
        const changed = (shown: number) => ({ [field]: shown / scale }) as Partial<ToneOf<Kind>>;
        const shownOf = (value: number) => Math.round((value * scale) / step) * step;
        return (
          <LabelledSlider
            key={field}
            label={label}
            value={shownOf(values[field] ?? 0)}
            min={shownOf(limits[field]?.minimum ?? 0)}
            max={shownOf(highest(limits[field], step / scale))}
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

/** A slider of a share, in percent. */
export function asShare<Kind extends ToneKind>(
  field: NumberField<Kind>,
  label: string,
): ToneSlider<Kind> {
  return { field, label, unit: "%", scale: 100 };
}
