/** Sliders of several numbers that belong together, each said as people count them. */

import type { ReactElement } from "react";
import { LabelledSlider } from "@/ui/LabelledSlider";

export interface NumberSlider<Field extends string = string> {
  readonly field: Field;
  readonly label: string;
  readonly unit: string;
  /** How many of what is shown make one of what is stored. */
  readonly scale: number;
  readonly step?: number;
  /** The slider's end, as shown; more can be typed. */
  readonly usual?: number;
}

export interface NumberLimits {
  readonly minimum?: number;
  readonly maximum?: number;
  readonly exclusiveMaximum?: number;
}

type Numbers = Readonly<Record<string, number>>;

interface NumberSlidersProps {
  readonly sliders: readonly NumberSlider[];
  readonly values: Numbers;
  readonly limits: Readonly<Record<string, NumberLimits>>;
  /** What a double click sets back to. */
  readonly fresh: Numbers;
  onPreview(changes: Numbers): void;
  onTake(changes: Numbers): void;
}

/** Return the highest value that may be set; one step less where it is itself beyond. */
function highest(limits: NumberLimits | undefined, step: number): number {
  return limits?.maximum ?? (limits?.exclusiveMaximum ?? 0) - step;
}

export function NumberSliders(props: NumberSlidersProps): ReactElement {
  const { sliders, values, limits, fresh, onPreview, onTake } = props;
  return (
    <>
      {sliders.map(({ field, label, unit, scale, step = 1, usual }) => {
        const shownOf = (value: number) => Math.round((value * scale) / step) * step;
        const value = shownOf(values[field] ?? 0);
        const most = shownOf(highest(limits[field], step / scale));
        return (
          <LabelledSlider
            key={field}
            label={label}
            value={value}
            min={shownOf(limits[field]?.minimum ?? 0)}
            max={Math.min(Math.max(usual ?? most, value), most)}
            step={step}
            unit={unit}
            fallback={shownOf(fresh[field] ?? 0)}
            onChange={(shown) => onPreview({ [field]: shown / scale })}
            onChangeEnd={(shown) => onTake({ [field]: shown / scale })}
          />
        );
      })}
    </>
  );
}
