/** The brush by its numbers, and what it does. */

import type { ReactElement } from "react";
import { useBrush } from "@/state/brush";
import { Choice } from "@/ui/Choice";
import { Fields } from "@/ui/Fields";
import { LabelledSlider } from "@/ui/LabelledSlider";

const DOES = [
  { id: "hide", label: "Hide" },
  { id: "show", label: "Show" },
] as const;

const PERCENT = 100;
/** The slider's end; wider brushes can be typed. */
const USUAL_SIZE = 800;

export function BrushSettings(): ReactElement {
  const { size, softness, strength, shows, set } = useBrush();
  const percents = [
    { label: "Softness", value: softness, of: "softness", fallback: 60 },
    { label: "Strength", value: strength, of: "strength", fallback: 100 },
  ] as const;
  return (
    <Fields>
      <Choice
        label="What the brush does"
        value={shows ? "show" : "hide"}
        choices={DOES}
        onChange={(does) => set({ shows: does === "show" })}
      />
      <BrushSize
        size={size}
        usual={USUAL_SIZE}
        fallback={120}
        onChange={(next) => set({ size: next })}
      />
      {percents.map(({ label, value, of, fallback }) => (
        <LabelledSlider
          key={of}
          label={label}
          value={Math.round(value * PERCENT)}
          min={0}
          max={100}
          unit="%"
          fallback={fallback}
          onChange={(next) => set({ [of]: next / PERCENT })}
          onChangeEnd={(next) => set({ [of]: next / PERCENT })}
        />
      ))}
    </Fields>
  );
}

interface BrushSizeProps {
  readonly size: number;
  /** The slider's end; wider ones can be typed. */
  readonly usual: number;
  readonly fallback: number;
  onChange(size: number): void;
}

/** How wide a brush is, in pixels of the canvas. */
export function BrushSize({ size, usual, fallback, onChange }: BrushSizeProps): ReactElement {
  return (
    <LabelledSlider
      label="Size"
      value={size}
      min={1}
      max={Math.max(usual, size)}
      unit="px"
      fallback={fallback}
      onChange={onChange}
      onChangeEnd={onChange}
    />
  );
}
