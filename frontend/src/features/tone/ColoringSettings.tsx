/** Colour: how colourful, and which way hues are turned. */

import type { ReactElement } from "react";
import { either, type ToneSlider, ToneSliders } from "@/features/tone/ToneSliders";
import type { Setting } from "@/features/tone/useSetting";

const SLIDERS: readonly ToneSlider<"coloring">[] = [
  either("saturation", "Colour"),
  either("vibrance", "Vibrance"),
  { field: "turn", label: "Hue", min: -180, max: 180, unit: "°", scale: 1 },
];

export function ColoringSettings(props: { readonly setting: Setting<"coloring"> }): ReactElement {
  return <ToneSliders setting={props.setting} sliders={SLIDERS} />;
}
