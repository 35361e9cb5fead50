/** A backdrop that was found: in which way, what was said of it, and where it is in doubt. */

import { HINTS } from "@generated/limits";
import type { ReactElement } from "react";
import { FindingNow } from "@/features/cut/BackdropOffer";
import { BrushSize } from "@/features/cut/BrushSettings";
import type { PhotoLayer } from "@/model/composite";
import { type MattePart, WAYS, type Way } from "@/model/mattes";
import { sayCount } from "@/model/wording";
import { useCutting } from "@/state/cutting";
import { Choice } from "@/ui/Choice";
import { Fields } from "@/ui/Fields";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { FacetWords } from "@/ui/Words";
import { findOtherwise, lookInside, takeStrokeBack } from "@/work/cutting/cutOut";
import { walkDoubts } from "@/work/cutting/walking";
import { useDeskActions } from "@/work/DeskContext";

const DOES = [
  { id: "keep", label: "Keep" },
  { id: "drop", label: "Drop" },
  { id: "ring", label: "Ring" },
  { id: "frame", label: "Frame" },
] as const;

const SAYS = {
  keep: "Paint or click roughly on what is to stay",
  drop: "Paint or click roughly on what does not belong",
  ring: "Draw a loose ring round the subject",
  frame: "Drag a frame round the subject",
} as const;

/** The slider's end; wider brushes can be typed. */
const USUAL_SIZE = 400;
/** Round what a frame without a pointer is laid, as shares of the photo's sides. */
const INSET = 0.15;

interface MatteSettingsProps {
  readonly layer: PhotoLayer;
  /** None yet where the first rough stroke will make it. */
  readonly part: MattePart | null;
}

export function MatteSettings({ layer, part }: MatteSettingsProps): ReactElement {
  const desk = useDeskActions();
  const { does, size, set } = useCutting();
  const middle = (): [number, number][] => {
    const [across, down] = [layer.width * INSET, layer.height * INSET];
    const [right, bottom] = [layer.width - across, layer.height - down];
    return [
      [across, down],
      [right, down],
      [right, bottom],
      [across, bottom],
    ];
  };
  return (
    <Fields>
      <FindingNow layer={layer} />
      <Choice
        label="What a press on the picture says"
        value={does}
        choices={DOES}
        onChange={(next) => set({ does: next })}
      />
      <FacetWords>
        {SAYS[does]}
        {does === "ring" || does === "frame" ? (
          <>
            , or look only{" "}
            <LiveWord onPress={() => lookInside(desk, middle())}>in the middle</LiveWord>
          </>
        ) : null}
        .
      </FacetWords>
      {does === "keep" || does === "drop" ? (
        <BrushSize
          size={size}
          usual={USUAL_SIZE}
          fallback={60}
          onChange={(next) => set({ size: next })}
        />
      ) : null}
      {part ? <Said layer={layer} part={part} /> : null}
    </Fields>
  );
}

interface SaidProps {
  readonly layer: PhotoLayer;
  readonly part: MattePart;
}

function Said({ layer, part }: SaidProps): ReactElement {
  const desk = useDeskActions();
  const count = part.hints.strokes.length;
  return (
    <FacetWords>
      Found{" "}
      <LiveSelect
        label="How it is found"
        value={part.way}
        choices={WAYS.map(({ id, label }) => ({ id, label: lowered(label) }))}
        onChange={(way) => findOtherwise(desk, layer, part, way as Way)}
      />
      {part.network ? `, by the network “${part.network}”` : ""}
      {count > 0 ? (
        <>
          , with {sayCount(count, "rough stroke")}{" "}
          <LiveWord onPress={() => takeStrokeBack(desk)}>(take the last one back)</LiveWord>
        </>
      ) : null}
      {count >= HINTS.strokes.maxItems ? "; with another one the oldest goes" : ""}
      {part.hints.around ? (
        <>
          , inside a ring{" "}
          <LiveWord onPress={() => lookInside(desk, null)}>(look everywhere again)</LiveWord>
        </>
      ) : null}
      . Go to <LiveWord onPress={() => walkDoubts(1)}>the next doubtful place</LiveWord>, or to{" "}
      <LiveWord onPress={() => walkDoubts(-1)}>the one before</LiveWord>.
    </FacetWords>
  );
}

function lowered(label: string): string {
  return label.charAt(0).toLowerCase() + label.slice(1);
}
