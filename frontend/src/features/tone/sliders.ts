/** The sliders of each kind of tone that is set by sliders alone. */

import { asShare, type ToneSlider } from "@/features/tone/ToneSliders";
import type { ToneKind } from "@/model/tones";

export const SLIDERS: { readonly [Kind in ToneKind]?: readonly ToneSlider<Kind>[] } = {
  light: [
    { field: "exposure", label: "Exposure", unit: "", scale: 1, step: 0.05 },
    asShare("brightness", "Bright"),
    asShare("contrast", "Contrast"),
    asShare("blacks", "Blacks"),
    asShare("shadows", "Shadows"),
    asShare("highlights", "Highlights"),
    asShare("whites", "Whites"),
  ],
  warmth: [
    { field: "warmth", label: "Warm", unit: "", scale: 1 },
    { field: "tint", label: "Tint", unit: "", scale: 1 },
  ],
  coloring: [
    asShare("saturation", "Colour"),
    asShare("vibrance", "Vibrance"),
    { field: "turn", label: "Hue", unit: "°", scale: 1 },
  ],
  sharpen: [
    asShare("amount", "Amount"),
    { field: "radius", label: "Radius", unit: "px", scale: 1, step: 0.1 },
    { field: "threshold", label: "Spares", unit: "", scale: 1 },
  ],
  clarity: [
    asShare("amount", "Amount"),
    { field: "radius", label: "Radius", unit: "px", scale: 1 },
  ],
  blur: [{ field: "radius", label: "Radius", unit: "px", scale: 1, step: 0.5 }],
  lens: [
    { field: "radius", label: "Radius", unit: "px", scale: 1, step: 0.5 },
    asShare("shine", "Shine"),
  ],
  painterly: [
    { field: "brush", label: "Brush", unit: "px", scale: 1 },
    asShare("detail", "Detail"),
  ],
  grain: [
    asShare("amount", "Amount"),
    { field: "size", label: "Size", unit: "px", scale: 1, step: 0.1 },
  ],
};
