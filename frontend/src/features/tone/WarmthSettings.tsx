/** Warmth: as if the light had been of another colour. */

import type { ReactElement } from "react";
import { type ToneSlider, ToneSliders } from "@/features/tone/ToneSliders";
import type { Setting } from "@/features/tone/useSetting";

const SLIDERS: readonly ToneSlider<"warmth">[] = [
  { field: "warmth", label: "Warm", min: -90, max: 90, unit: "", scale: 1 },
  { field: "tint", label: "Tint", min: -30, max: 30, unit: "", scale: 1 },
];

export function WarmthSettings({ setting }: { readonly setting: Setting<"warmth"> }): ReactElement {
  return <ToneSliders setting={setting} sliders={SLIDERS} />;
}
