/** The knobs of words: sides of their block, and what bends their lines. */

import type { ReactElement } from "react";
import { Hold, Middle } from "@/features/grips/gripParts";
import type { WordsLayer } from "@/model/composite";
import { toCanvas } from "@/model/geometry";
import { wordsGrips } from "@/model/lettering";
import { canvasToStage, type StageView } from "@/model/viewing";

const KNOB = 6;
const REACH = 14;

interface WordsKnobsProps {
  /** As they lie on the canvas. */
  readonly layer: WordsLayer;
  readonly view: StageView;
}

export function WordsKnobs({ layer, view }: WordsKnobsProps): ReactElement {
  return (
    <g data-testid="words-knobs">
      {wordsGrips(layer).map(({ grip, at }) => {
        const seen = canvasToStage(view, toCanvas(layer, at));
        return (
          <g key={grip}>
            <Middle cx={seen.x} cy={seen.y} r={KNOB} />
            <Hold data-grip={grip} cx={seen.x} cy={seen.y} r={REACH} />
          </g>
        );
      })}
    </g>
  );
}
