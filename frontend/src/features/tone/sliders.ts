/** The sliders of each kind of tone that is set by sliders alone. */

import { either, type ToneSlider } from "@/features/tone/ToneSliders";
import type { ToneKind } from "@/model/tones";

export const SLIDERS: { readonly [Kind in ToneKind]?: readonly ToneSlider<Kind>[] } = {
  light: [
    { field: "exposure", label: "Exposure", min: -5, max: 5, unit: "", scale: 1, step: 0.05 },
    either("brightness", "Bright"),
    either("contrast", "Contrast"),
    either("blacks", "Blacks"),
    either("shadows", "Shadows"),
    either("highlights", "Highlights"),
    either("whites", "Whites"),
  ],
  warmth: [
    { field: "warmth", label: "Warm", min: -90, max: 90, unit: "", scale: 1 },
    { field: "tint", label: "Tint", min: -30, max: 30, unit: "", scale: 1 },
  ],
  coloring: [
    either("saturation", "Colour"),
    either("vibrance", "Vibrance"),
    { field: "turn", label: "Hue", min: -180, max: 180, unit: "°", scale: 1 },
  ],
  sharpen: [
    { field: "amount", label: "Amount", min: 0, max: 300, unit: "%", scale: 100 },
    { field: "radius", label: "Radius", min: 0.3, max: 20, unit: "px", scale: 1, step: 0.1 },
    { field: "threshold", label: "Spares", min: 0, max: 50, unit: "", scale: 1 },
  ],
  clarity: [
    either("amount", "Amount"),
    { field: "radius", label: "Radius", min: 5, max: 300, unit: "px", scale: 1 },
  ],
  blur: [{ field: "radius", label: "Radius", min: 0, max: 300, unit: "px", scale: 1, step: 0.5 }],
  lens: [
    { field: "radius", label: "Radius", min: 0, max: 200, unit: "px", scale: 1, step: 0.5 },
    { field: "shine", label: "Shine", min: 0, max: 100, unit: "%", scale: 100 },
  ],
  painterly: [
    { field: "brush", label: "Brush", min: 2, max: 80, unit: "px", scale: 1 },
    { field: "detail", label: "Detail", min: 0, max: 100, unit: "%", scale: 100 },
  ],
  grain: [
    { field: "amount", label: "Amount", min: 0, max: 100, unit: "%", scale: 100 },
    { field: "size", label: "Size", min: 0.5, max: 12, unit: "px", scale: 1, step: 0.1 },
  ],
};
