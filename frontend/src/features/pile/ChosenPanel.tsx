/** What can be done with several layers at once. */

import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { chosenOnCanvas } from "@/model/choosing";
import type { Edit } from "@/model/composite";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { useKeyName } from "@/state/ownKeys";
import { useComposite } from "@/state/project";
import { color } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { Words } from "@/ui/Words";
import { groupChosen, removeChosen } from "@/work/commands";
import { type DeskActions, useDeskActions } from "@/work/DeskContext";

const Panel = styled.section`
  display: grid;
  gap: 8px;
  padding: 10px 16px 12px 12px;
  border-bottom: 1px solid ${color.rule};
  border-left: 4px solid ${color.on};
  background: ${color.sheet};
`;

const Three = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px;
`;

type Align = Extract<Edit, { kind: "align_layers" }>;

const SIDES: readonly { readonly side: Align["side"]; readonly label: string }[] = [
  { side: "left", label: "Left sides" },
  { side: "centre", label: "Middles ↔" },
  { side: "right", label: "Right sides" },
  { side: "top", label: "Tops" },
  { side: "middle", label: "Middles ↕" },
  { side: "bottom", label: "Bottoms" },
];

const TO = [
  { id: "all", label: "one another" },
  { id: "first", label: "the first one" },
  { id: "canvas", label: "the sheet" },
];

export function ChosenPanel(): ReactElement | null {
  const desk = useDeskActions();
  const composite = useComposite();
  const chosen = useDesk((store) => store.chosen);
  const { choose } = useDesk((store) => store.actions);
  const [to, setTo] = useState<NonNullable<Align["to"]>>("all");
  const key = useKeyName("choose");
  if (!composite || chosen.length === 0) return null;
  const placed = chosenOnCanvas(composite, chosen).map((layer) => layer.id);
  if (placed.length < 2) {
    return (
      <Panel aria-label="Chosen layers">
        <Words>
          One layer is chosen. Choose more with Shift and a press on the stage
          {key === null ? "" : `, or with ${key} for the open one`}.{" "}
          <LiveWord onPress={() => choose([])}>Let it go</LiveWord>
        </Words>
      </Panel>
    );
  }
  return (
    <Panel aria-label="Chosen layers">
      <Words>
        <strong>{sayCount(placed.length, "layer")} chosen.</strong> Line them up with{" "}
        <LiveSelect
          label="Line up with"
          value={to}
          choices={TO}
          onChange={(id) => setTo(id as typeof to)}
        />
        :
      </Words>
      <Three>
        {SIDES.map(({ side, label }) => (
          <PlainButton
            key={side}
            onPress={() => desk.edit({ kind: "align_layers", layer_ids: placed, side, to })}
          >
            {label}
          </PlainButton>
        ))}
      </Three>
      <Spacing desk={desk} placed={placed} isOver={to === "canvas"} />
      <Three>
        <PlainButton onPress={() => groupChosen(desk)}>Put together</PlainButton>
        <PlainButton onPress={() => removeChosen(desk)}>Take away</PlainButton>
        <PlainButton onPress={() => choose([])}>Let them go</PlainButton>
      </Three>
    </Panel>
  );
}

interface SpacingProps {
  readonly desk: DeskActions;
  readonly placed: readonly string[];
  /** Whether the whole sheet is shared out. */
  readonly isOver: boolean;
}

function Spacing({ desk, placed, isOver }: SpacingProps): ReactElement {
  const space = (axis: "across" | "down") =>
    desk.edit({
      kind: "space_layers",
      layer_ids: placed,
      axis,
      over: isOver ? "canvas" : "all",
    });
  const tooFew = !isOver && placed.length < 3;
  return (
    <Words>
      {tooFew ? (
        "With a third one, gaps can be made equal."
      ) : (
        <>
          Make the gaps equal <LiveWord onPress={() => space("across")}>across</LiveWord> or{" "}
          <LiveWord onPress={() => space("down")}>down</LiveWord>.
        </>
      )}
    </Words>
  );
}
