/** The settings of one tone: the table of what each kind has. */

import type { ComponentType, ReactElement } from "react";
import { ColoringSettings } from "@/features/tone/ColoringSettings";
import { CurvesSettings } from "@/features/tone/CurvesSettings";
import { LevelsSettings } from "@/features/tone/LevelsSettings";
import { LightSettings } from "@/features/tone/LightSettings";
import { MonochromeSettings } from "@/features/tone/MonochromeSettings";
import { OneHueSettings } from "@/features/tone/OneHueSettings";
import { type Setting, useSetting } from "@/features/tone/useSetting";
import { WarmthSettings } from "@/features/tone/WarmthSettings";
import type { TonedLayer } from "@/model/composite";
import type { ToneKind } from "@/model/tones";

/** A kind without settings is not in it. */
const SETTINGS: { readonly [Kind in ToneKind]?: ComponentType<{ setting: Setting<Kind> }> } = {
  light: LightSettings,
  levels: LevelsSettings,
  curves: CurvesSettings,
  warmth: WarmthSettings,
  coloring: ColoringSettings,
  one_hue: OneHueSettings,
  monochrome: MonochromeSettings,
};

interface ToneSettingsProps {
  readonly layer: TonedLayer;
  readonly place: number;
}

export function ToneSettings({ layer, place }: ToneSettingsProps): ReactElement | null {
  const setting = useSetting(layer, place);
  if (!setting) return null;
  const Shown = SETTINGS[setting.tone.kind] as
    | ComponentType<{ setting: Setting<ToneKind> }>
    | undefined;
  return Shown ? <Shown setting={setting} /> : null;
}
