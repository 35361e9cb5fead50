/** Black and white: how light each hue becomes, and a tint. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { asShare, type ToneSlider, ToneSliders } from "@/features/tone/ToneSliders";
import type { Setting } from "@/features/tone/useSetting";
import { ColorWell } from "@/ui/ColorWell";
import { Tick } from "@/ui/Tick";

const MIX: readonly ToneSlider<"monochrome">[] = [
  asShare("reds", "Reds"),
  asShare("yellows", "Yellows"),
  asShare("greens", "Greens"),
  asShare("cyans", "Cyans"),
  asShare("blues", "Blues"),
  asShare("magentas", "Magentas"),
];
const TINT: readonly ToneSlider<"monochrome">[] = [asShare("tinted", "How much")];
const FIRST_TINT = "#a0703c";

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
`;

interface MonochromeSettingsProps {
  readonly setting: Setting<"monochrome">;
}

export function MonochromeSettings({ setting }: MonochromeSettingsProps): ReactElement {
  const { tint } = setting.tone;
  return (
    <>
      <ToneSliders setting={setting} sliders={MIX} />
      <Row>
        <Tick
          isSelected={tint !== null}
          onChange={(on) => setting.take({ tint: on ? FIRST_TINT : null })}
        >
          Tinted
        </Tick>
        {tint === null ? null : (
          <ColorWell
            label="Colour of the tint"
            value={tint}
            onPreview={(next) => setting.preview({ tint: next })}
            onChange={(next) => setting.take({ tint: next })}
          />
        )}
      </Row>
      {tint === null ? null : <ToneSliders setting={setting} sliders={TINT} />}
    </>
  );
}
