/** A match: how much of each of its parts, and pairs of spots that say it better. */

import { type ReactElement, useEffect } from "react";
import styled from "styled-components";
import { HEIGHT, HistogramShapes, HistogramWords } from "@/features/tone/Histogram";
import { type ToneSlider, ToneSliders } from "@/features/tone/ToneSliders";
import type { Setting } from "@/features/tone/useSetting";
import { MOST_PAIRS } from "@/model/matches";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { endPairing, usePairing } from "@/state/pairing";
import { color } from "@/theme/tokens";
import { LiveWord } from "@/ui/LiveWord";
import { FacetWords } from "@/ui/Words";
import { useDeskActions } from "@/work/DeskContext";
import { matchByPairs } from "@/work/toning/matching";

const Drawn = styled.svg`
  display: block;
  width: 100%;
  height: ${HEIGHT}px;
  border-bottom: 1px solid ${color.ruleStrong};
  background: ${color.paper};
`;

const SLIDERS: readonly ToneSlider<"match">[] = [
  { field: "light", label: "Light", unit: "", scale: 1, step: 0.01, usual: 2 },
  { field: "warmth", label: "Warm", unit: "%", scale: 100 },
  { field: "tint", label: "Tint", unit: "%", scale: 100 },
  { field: "contrast", label: "Contrast", unit: "%", scale: 100 },
  { field: "color", label: "Colour", unit: "%", scale: 100 },
];

interface MatchSettingsProps {
  readonly setting: Setting<"match">;
}

export function MatchSettings({ setting }: MatchSettingsProps): ReactElement {
  const desk = useDeskActions();
  const { openLine } = useDesk((state) => state.actions);
  // What was pointed at belongs to this match alone.
  useEffect(() => endPairing, []);
  return (
    <>
      <div>
        <Drawn viewBox={`0 0 255 ${HEIGHT}`} preserveAspectRatio="none" aria-hidden="true">
          <HistogramShapes />
        </Drawn>
      </div>
      <HistogramWords />
      <ToneSliders setting={setting} sliders={SLIDERS} />
      <Pairs setting={setting} />
      <FacetWords>
        <LiveWord
          onPress={() => {
            desk.edit({ kind: "part_match", layer_id: setting.layer.id, place: setting.place });
            openLine(null);
          }}
        >
          Take it apart
        </LiveWord>{" "}
        into colour and a curve.
      </FacetWords>
    </>
  );
}

function Pairs({ setting }: MatchSettingsProps): ReactElement {
  const desk = useDeskActions();
  const { isOn, pairs, first, set } = usePairing();
  const { layer, place } = setting;
  const isFull = pairs.length >= MOST_PAIRS;
  const takeBack = () => {
    if (first) return set({ first: null });
    const fewer = pairs.slice(0, -1);
    set({ pairs: fewer });
    void matchByPairs(desk, layer, place, fewer);
  };
  return (
    <FacetWords role="status">
      {isFull ? null : (
        <LiveWord isExpanded={isOn} onPress={() => set({ isOn: !isOn, first: null })}>
          This should look like that
        </LiveWord>
      )}
      {isFull ? "" : ": "}
      {saidNow(isOn, first !== null)}
      {pairs.length > 0 ? ` ${sayCount(pairs.length, "pair")} so far.` : ""}
      {pairs.length > 0 || first ? (
        <>
          {" "}
          <LiveWord onPress={takeBack}>Take the last back</LiveWord>.
        </>
      ) : null}
    </FacetWords>
  );
}

function saidNow(isOn: boolean, hasFirst: boolean): string {
  if (!isOn) return "point at the same stuff in both, such as white and white.";
  return hasFirst ? "press on what it should look like." : "press on something of the layer.";
}
