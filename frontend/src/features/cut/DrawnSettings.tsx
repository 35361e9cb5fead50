/** Outlines and even colours by their numbers: what the stage does with a pointer. */

import { ELLIPSE_PART, EVEN_PART, OUTLINE_PART } from "@generated/limits";
import { type ReactElement, useState } from "react";
import styled from "styled-components";
import type { Layer } from "@/model/composite";
import {
  type EvenPart,
  isOwnColour,
  movedCorner,
  type OutlinePart,
  withCornerAfter,
  withoutCorner,
} from "@/model/drawing";
import { changePart } from "@/model/masks";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { useCalmLive } from "@/state/useCalmLive";
import { font } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { FieldRow, Fields } from "@/ui/Fields";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { LiveWord } from "@/ui/LiveWord";
import { NumberGrid } from "@/ui/NumberGrid";
import { Tick } from "@/ui/Tick";
import { useDeskActions } from "@/work/DeskContext";

const Words = styled.p`
  font-family: ${font.reading};
  font-size: 15px;
`;

/** The slider's end; wider edges can be typed. */
const USUAL_SOFTNESS = 400;
const USUAL_TOLERANCE = 60;

interface OutlineSettingsProps {
  readonly layer: Layer;
  readonly part: OutlinePart;
}

export function OutlineSettings({ layer, part: kept }: OutlineSettingsProps): ReactElement {
  const desk = useDeskActions();
  const part = useLivePart(kept);
  const { setLive } = useDesk((state) => state.actions);
  const [chosen, setChosen] = useState(0);
  const place = Math.min(chosen, part.points.length - 1);
  const [x = 0, y = 0] = part.points[place] ?? [];
  const take = (next: OutlinePart) => {
    setLive(null);
    desk.edit(changePart(layer, next));
  };
  const numbers = [
    {
      label: "Corner",
      value: place + 1,
      limits: { minimum: 1, maximum: part.points.length },
      unit: `of ${part.points.length}`,
      onChange: (number: number) => setChosen(Math.round(number) - 1),
    },
    {
      label: "Across",
      value: x,
      limits: ELLIPSE_PART.x,
      onChange: (across: number) => take(movedCorner(kept, place, { x: across, y })),
    },
    {
      label: "Down",
      value: y,
      limits: ELLIPSE_PART.y,
      onChange: (down: number) => take(movedCorner(kept, place, { x, y: down })),
    },
  ];
  return (
    <Fields>
      <LabelledSlider
        label="Softness"
        value={Math.round(part.softness)}
        min={0}
        max={Math.max(USUAL_SOFTNESS, part.softness)}
        unit="px"
        fallback={0}
        onChange={(softness) => setLive(changePart(layer, { ...kept, softness }))}
        onChangeEnd={(softness) => take({ ...kept, softness })}
      />
      <NumberGrid numbers={numbers} />
      <FieldRow>
        <PlainButton
          isDisabled={part.points.length >= OUTLINE_PART.points.maxItems}
          onPress={() => {
            take(withCornerAfter(kept, place));
            setChosen(place + 1);
          }}
        >
          Add a corner after it
        </PlainButton>
        <PlainButton
          isDisabled={part.points.length <= OUTLINE_PART.points.minItems}
          onPress={() => take(withoutCorner(kept, place))}
        >
          Take the corner away
        </PlainButton>
      </FieldRow>
    </Fields>
  );
}

interface EvenSettingsProps {
  readonly layer: Layer;
  readonly part: EvenPart;
}

export function EvenSettings({ layer, part: kept }: EvenSettingsProps): ReactElement {
  const desk = useDeskActions();
  const part = useLivePart(kept);
  const { setLive } = useDesk((state) => state.actions);
  const take = (changes: Partial<EvenPart>) => {
    setLive(null);
    desk.edit(changePart(layer, { ...kept, ...changes }));
  };
  return (
    <Fields>
      <LabelledSlider
        label="Tolerance"
        value={Math.round(part.tolerance)}
        min={EVEN_PART.tolerance.minimum}
        max={Math.max(USUAL_TOLERANCE, part.tolerance)}
        unit=""
        fallback={12}
        onChange={(tolerance) => setLive(changePart(layer, { ...kept, tolerance }))}
        onChangeEnd={(tolerance) => take({ tolerance })}
      />
      <Tick isSelected={part.connected} onChange={(connected) => take({ connected })}>
        Only what hangs together
      </Tick>
      <Words>
        Found from {sayCount(part.spots.length, "spot")}
        {isOwnColour(layer, kept) ? "; a click in the picture adds one" : " of another photo"}
        {part.spots.length > 1 ? (
          <>
            , or{" "}
            <LiveWord onPress={() => take({ spots: kept.spots.slice(0, -1) })}>
              take the last one back
            </LiveWord>
          </>
        ) : null}
        .
      </Words>
    </Fields>
  );
}

/** Return a part as it is being changed, or as it is. */
function useLivePart<P extends OutlinePart | EvenPart>(kept: P): P {
  const live = useCalmLive();
  const isLive = live?.kind === "change_part" && live.part.id === kept.id;
  return isLive && live.part.kind === kept.kind ? (live.part as P) : kept;
}
