/** One hue alone: which colours, and what becomes of them. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { asShare, type ToneSlider, ToneSliders } from "@/features/tone/ToneSliders";
import type { Setting } from "@/features/tone/useSetting";
import { Swatches } from "@/ui/Swatches";

/** Hues that are looked for most, by their angle in Oklab. */
const HUES: readonly { readonly color: string; readonly hue: number }[] = [
  { color: "#d65c5c", hue: 25 },
  { color: "#d98a4a", hue: 58 },
  { color: "#c9b23c", hue: 100 },
  { color: "#6aa84f", hue: 140 },
  { color: "#3fa7a0", hue: 190 },
  { color: "#4f86c6", hue: 254 },
  { color: "#8a63c9", hue: 300 },
  { color: "#c95fa4", hue: 345 },
];

const SLIDERS: readonly ToneSlider<"one_hue">[] = [
  { field: "hue", label: "Which", unit: "°", scale: 1 },
  { field: "width", label: "How wide", unit: "°", scale: 1 },
  asShare("lightness", "Lightness"),
  asShare("saturation", "Colour"),
  { field: "turn", label: "Turned", unit: "°", scale: 1 },
];

const Row = styled.div`
  display: grid;
  grid-template-columns: 64px 1fr;
  align-items: center;
  gap: 12px;
`;

export function OneHueSettings({
  setting,
}: {
  readonly setting: Setting<"one_hue">;
}): ReactElement {
  const nearest = HUES.find(({ hue }) => hue === setting.tone.hue)?.color ?? "";
  return (
    <>
      <Row>
        <span>Of the</span>
        <Swatches
          label="Which colours are meant"
          colors={HUES.map(({ color }) => color)}
          chosen={nearest}
          isDisabled={false}
          onTake={(taken) => {
            const found = HUES.find(({ color }) => color === taken);
            if (found) setting.take({ hue: found.hue });
          }}
        />
      </Row>
      <ToneSliders setting={setting} sliders={SLIDERS} />
    </>
  );
}
