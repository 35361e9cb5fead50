/** Levels: three handles beneath the histogram, two for what comes out, and numbers. */

import { ENDS } from "@generated/limits";
import { type ReactElement, useEffect } from "react";
import { Label, Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import { ChannelChoice } from "@/features/tone/ChannelChoice";
import { HEIGHT, HistogramShapes, HistogramWords } from "@/features/tone/Histogram";
import type { Setting } from "@/features/tone/useSetting";
import { AS_THEY_ARE, type Ends } from "@/model/tones";
import { type SpotRole, useToning } from "@/state/toning";
import { color } from "@/theme/tokens";
import { LiveWord } from "@/ui/LiveWord";
import { NumberBox } from "@/ui/NumberBox";
import { FacetWords } from "@/ui/Words";
import { useDeskActions } from "@/work/DeskContext";
import { findLevels } from "@/work/toning/levels";

const TOP = 255;
const HALF = 0.5;
const LEAST_MIDDLE = 0.1;
const MOST_MIDDLE = ENDS.middle.maximum;

const Drawn = styled.svg`
  display: block;
  width: 100%;
  height: ${HEIGHT}px;
  border-bottom: 1px solid ${color.ruleStrong};
  background: ${color.paper};
`;

const Track = styled(SliderTrack)`
  position: relative;
  height: 26px;
  touch-action: none;
`;

/** A post that stands under the level that it means. */
const Post = styled(SliderThumb)`
  top: 13px;
  width: 14px;
  height: 24px;

  &::before {
    content: "";
    position: absolute;
    inset: 0 3px;
    border: 1.5px solid ${color.ink};
    border-radius: 1px;
    background: ${color.ink};
  }

  &[data-shade="middle"]::before {
    background: #8b8b8b;
  }

  &[data-shade="light"]::before {
    background: #ffffff;
  }

  &[data-focus-visible] {
    outline: 2px solid ${color.on};
    outline-offset: 1px;
  }
`;

const Numbers = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px;
`;

/** Not shown: each handle says what it is by itself. */
const Unseen = styled(Label)`
  position: absolute;
  overflow: hidden;
  width: 1px;
  height: 1px;
  clip-path: inset(50%);
`;

/** Where the middle stands: what lies there comes out halfway. */
function postOf({ darkest, middle, lightest }: Ends): number {
  return darkest + (lightest - darkest) * HALF ** middle;
}

function middleOf(post: number, darkest: number, lightest: number): number {
  const share = (post - darkest) / (lightest - darkest);
  const middle = Math.log(Math.min(Math.max(share, 1e-3), 1 - 1e-3)) / Math.log(HALF);
  return Math.min(Math.max(middle, LEAST_MIDDLE), MOST_MIDDLE);
}

/** Return the ends after the three posts stand elsewhere; the middle goes along with them. */
function endsAfter(before: Ends, [dark, post, light]: readonly number[]): Ends {
  const darkest = Math.min((dark ?? 0) / TOP, 254 / TOP);
  const lightest = Math.max((light ?? TOP) / TOP, darkest + 1 / TOP);
  const stayed = Math.round(postOf(before) * TOP) === post;
  const middle = stayed ? before.middle : middleOf((post ?? 0) / TOP, darkest, lightest);
  return { ...before, darkest, middle, lightest };
}

export function LevelsSettings({ setting }: { readonly setting: Setting<"levels"> }): ReactElement {
  const channel = useToning((toning) => toning.channel);
  const ends = setting.tone[channel];
  const changed = (next: Partial<Ends>) => ({ [channel]: { ...ends, ...next } });
  const posts = [ends.darkest, postOf(ends), ends.lightest].map((at) => Math.round(at * TOP));
  const moved = (next: number[]) => ({ [channel]: endsAfter(ends, next) });
  const leaving = [ends.low, ends.high].map((at) => Math.round(at * TOP));
  const left = ([low = 0, high = TOP]: number[]) => changed({ low: low / TOP, high: high / TOP });
  return (
    <>
      <ChannelChoice />
      <div>
        <Drawn viewBox={`0 0 255 ${HEIGHT}`} preserveAspectRatio="none" aria-hidden="true">
          <HistogramShapes />
        </Drawn>
        <Slider
          value={posts}
          minValue={0}
          maxValue={TOP}
          onChange={(next) => setting.preview(moved(next))}
          onChangeEnd={(next) => setting.take(moved(next))}
        >
          <Unseen>Levels that come in</Unseen>
          <Track onDoubleClick={() => setting.take(changed(AS_THEY_ARE))}>
            <Post index={0} aria-label="Darkest" data-shade="dark" />
            <Post index={1} aria-label="Middle" data-shade="middle" />
            <Post index={2} aria-label="Lightest" data-shade="light" />
          </Track>
        </Slider>
      </div>
      <HistogramWords />
      <Numbers>
        <NumberBox
          label="Darkest"
          hideLabel
          value={posts[0] ?? 0}
          min={0}
          max={(posts[2] ?? TOP) - 1}
          step={1}
          onChange={(at) => setting.take(changed({ darkest: at / TOP }))}
        />
        <NumberBox
          label="Middle"
          hideLabel
          value={Math.round(ends.middle * 100) / 100}
          min={LEAST_MIDDLE}
          max={MOST_MIDDLE}
          step={0.01}
          digits={2}
          onChange={(middle) => setting.take(changed({ middle }))}
        />
        <NumberBox
          label="Lightest"
          hideLabel
          value={posts[2] ?? TOP}
          min={(posts[0] ?? 0) + 1}
          max={TOP}
          step={1}
          onChange={(at) => setting.take(changed({ lightest: at / TOP }))}
        />
      </Numbers>
      <Slider
        value={leaving}
        minValue={0}
        maxValue={TOP}
        onChange={(next) => setting.preview(left(next))}
        onChangeEnd={(next) => setting.take(left(next))}
      >
        <Label>
          Comes out from {leaving[0]} to {leaving[1]}
        </Label>
        <Ramp>
          <Post index={0} aria-label="As dark as" data-shade="dark" />
          <Post index={1} aria-label="As light as" data-shade="light" />
        </Ramp>
      </Slider>
      <Finding setting={setting} />
    </>
  );
}

const Ramp = styled(Track)`
  &::before {
    content: "";
    position: absolute;
    inset: 8px 0;
    border: 1px solid ${color.rule};
    background: linear-gradient(to right, #000000, #ffffff);
  }
`;

const ROLES: readonly { readonly role: SpotRole; readonly word: string }[] = [
  { role: "black", word: "black" },
  { role: "grey", word: "grey" },
  { role: "white", word: "white" },
];

/** Find levels by pointing at the picture, or by where its tones end. */
function Finding({ setting }: { readonly setting: Setting<"levels"> }): ReactElement {
  const desk = useDeskActions();
  const role = useToning((toning) => toning.role);
  const setRole = useToning((toning) => toning.setRole);
  // With the levels closed nothing would be set by a spot.
  useEffect(() => () => useToning.getState().setRole(null), []);
  const find = (way: "ends" | "each") =>
    void findLevels(desk, setting.layer, setting.place, { role: way });
  return (
    <>
      <FacetWords>
        Point at what is{" "}
        {ROLES.map(({ role: one, word }, index) => (
          <span key={one}>
            <LiveWord
              label={`Point at what is ${word}`}
              isOn={role === one}
              onPress={() => setRole(role === one ? null : one)}
            >
              {word}
            </LiveWord>
            {index < ROLES.length - 1 ? (index === ROLES.length - 2 ? " or " : ", ") : "."}
          </span>
        ))}
      </FacetWords>
      <FacetWords>
        Have the ends found: <LiveWord onPress={() => find("ends")}>for all at once</LiveWord>, or{" "}
        <LiveWord onPress={() => find("each")}>for each colour</LiveWord>, which takes a cast away.
      </FacetWords>
    </>
  );
}
