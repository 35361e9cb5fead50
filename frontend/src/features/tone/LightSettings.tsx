/** Light: lighter and darker, as a whole and by parts. */

import type { ReactElement } from "react";
import { either, type ToneSlider, ToneSliders } from "@/features/tone/ToneSliders";
import type { Setting } from "@/features/tone/useSetting";

const SLIDERS: readonly ToneSlider<"light">[] = [
  { field: "exposure", label: "Exposure", min: -5, max: 5, unit: "", scale: 1, step: 0.05 },
  either("brightness", "Bright"),
  either("contrast", "Contrast"),
  either("highlights", "Highlights"),
  either("shadows", "Shadows"),
  either("whites", "Whites"),
  either("blacks", "Blacks"),
];

export function LightSettings({ setting }: { readonly setting: Setting<"light"> }): ReactElement {
  return <ToneSliders setting={setting} sliders={SLIDERS} />;
}
