/** The settings of one tone: sliders, or what its kind has instead. */

import { type ComponentType, lazy, type ReactElement, Suspense } from "react";
import { MatchSettings } from "@/features/tone/MatchSettings";
import { MonochromeSettings } from "@/features/tone/MonochromeSettings";
import { OneHueSettings } from "@/features/tone/OneHueSettings";
import { SLIDERS } from "@/features/tone/sliders";
import { type ToneSlider, ToneSliders } from "@/features/tone/ToneSliders";
import { type Setting, useSetting } from "@/features/tone/useSetting";
import type { TonedLayer } from "@/model/composite";
import type { ToneKind } from "@/model/tones";

// The large ones are loaded when they are first opened.
const LevelsSettings = lazy(async () => ({
  default: (await import("@/features/tone/LevelsSettings")).LevelsSettings,
}));
const CurvesSettings = lazy(async () => ({
  default: (await import("@/features/tone/CurvesSettings")).CurvesSettings,
}));

type Settings<Kind extends ToneKind> = ComponentType<{ readonly setting: Setting<Kind> }>;

/** Of kinds that more than sliders belong to. */
const SETTINGS: { readonly [Kind in ToneKind]?: Settings<Kind> } = {
  levels: LevelsSettings,
  curves: CurvesSettings,
  one_hue: OneHueSettings,
  monochrome: MonochromeSettings,
  match: MatchSettings,
};

interface ToneSettingsProps {
  readonly layer: TonedLayer;
  readonly place: number;
}

export function ToneSettings({ layer, place }: ToneSettingsProps): ReactElement | null {
  const setting = useSetting(layer, place);
  if (!setting) return null;
  const { kind } = setting.tone;
  const Own = SETTINGS[kind] as Settings<ToneKind> | undefined;
  if (Own) {
    return (
      <Suspense>
        <Own setting={setting} />
      </Suspense>
    );
  }
  const sliders = SLIDERS[kind] as readonly ToneSlider<ToneKind>[] | undefined;
  return sliders ? <ToneSliders setting={setting} sliders={sliders} /> : null;
}
