/** What letters are filled with: one colour, a gradient, or nothing. */

import { BLENDED_INK } from "@generated/limits";
import type { ReactElement } from "react";
import { PhotoInLetters } from "@/features/lettering/PhotoInLetters";
import type { WordsSetting } from "@/features/lettering/useWords";
import { FRESH_CONTOUR, type Ink } from "@/model/words";
import { Fields } from "@/ui/Fields";
import { LiveSelect } from "@/ui/LiveSelect";
import { type NumberSlider, NumberSliders } from "@/ui/NumberSliders";
import { FacetWords } from "@/ui/Words";
import { LayerColor } from "@/work/LayerColor";

const INKS = [
  { id: "plain", label: "one colour" },
  { id: "linear", label: "a straight gradient" },
  { id: "round", label: "a round gradient" },
  { id: "each", label: "a gradient over each letter" },
  { id: "none", label: "nothing: see-through letters" },
] as const;

type Choice = (typeof INKS)[number]["id"];

function choiceOf(ink: Ink | null): Choice {
  if (ink === null) return "none";
  if (ink.kind === "plain") return "plain";
  return ink.each ? "each" : ink.shape;
}

/** A fresh ink of a kind; colours that were chosen stay where there is one for them. */
function inkOf(choice: Choice, before: Ink | null): Ink | null {
  const color = before === null ? "#25221d" : before.kind === "plain" ? before.color : before.start;
  const opacity = before?.opacity ?? 1;
  if (choice === "none") return null;
  if (choice === "plain") return { kind: "plain", color, opacity };
  return {
    kind: "blended",
    start: color,
    end: before?.kind === "blended" ? before.end : "#c0562f",
    shape: choice === "round" ? "round" : "linear",
    angle: before?.kind === "blended" ? before.angle : 90,
    each: choice === "each",
    opacity,
  };
}

const STRENGTH: NumberSlider = { field: "opacity", label: "Strength", unit: "%", scale: 100 };
const ANGLE: NumberSlider = { field: "angle", label: "Runs to", unit: "°", scale: 1 };

export function InkSettings(setting: WordsSetting): ReactElement {
  const { words, take, preview } = setting;
  const { ink } = words;
  const changed = (changes: object) => ({ ink: { ...ink, ...changes } as Ink });
  const choose = (choice: Choice) => {
    const contour = words.contour ?? FRESH_CONTOUR;
    // Letters that are see-through and have no outline would not be seen at all.
    take(choice === "none" ? { ink: null, contour } : { ink: inkOf(choice, ink) });
  };
  const isStraight = ink?.kind === "blended" && ink.shape === "linear";
  return (
    <Fields>
      <FacetWords>
        Letters are filled with{" "}
        <LiveSelect
          label="What letters are filled with"
          value={choiceOf(ink)}
          choices={INKS}
          onChange={(id) => choose(id as Choice)}
        />
        .
      </FacetWords>
      {ink === null ? null : <InkColors {...setting} ink={ink} />}
      {ink === null ? null : (
        <NumberSliders
          sliders={isStraight ? [ANGLE, STRENGTH] : [STRENGTH]}
          values={ink as unknown as Readonly<Record<string, number>>}
          limits={BLENDED_INK}
          fresh={{ opacity: 1, angle: 90 }}
          onPreview={(changes) => preview(changed(changes))}
          onTake={(changes) => take(changed(changes))}
        />
      )}
      <PhotoInLetters layer={setting.layer} isOff={setting.isOff} />
    </Fields>
  );
}

interface InkColorsProps extends WordsSetting {
  readonly ink: Ink;
}

function InkColors({ layer, isOff, ink, preview, take }: InkColorsProps): ReactElement {
  const color = (of: string, value: string, changed: (chosen: string) => Ink) => (
    <LayerColor
      {...{ layer, of, value, isOff }}
      onPreview={(chosen) => preview({ ink: changed(chosen) })}
      onTake={(chosen) => take({ ink: changed(chosen) })}
    />
  );
  if (ink.kind === "plain") return color("Ink", ink.color, (chosen) => ({ ...ink, color: chosen }));
  return (
    <>
      {color("From", ink.start, (start) => ({ ...ink, start }))}
      {color("To", ink.end, (end) => ({ ...ink, end }))}
    </>
  );
}
