/** The offer to match a layer: to what lies behind it, to another, or the other way. */

import { type ReactElement, useState } from "react";
import { v4 as newId } from "uuid";
import { type Composite, isPlaced, type Layer, type TonedLayer } from "@/model/composite";
import { BEHIND, matchable } from "@/model/matches";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { useDeskActions } from "@/work/DeskContext";
import { addMatch } from "@/work/toning/matching";

interface MatchOfferProps {
  readonly layer: TonedLayer;
  readonly composite: Composite;
}

const NOTHING_NAMED = "behind";

export function MatchOffer({ layer, composite }: MatchOfferProps): ReactElement | null {
  const desk = useDeskActions();
  const [isBusy, setBusy] = useState(false);
  const others = matchable(composite, layer);
  const beneath = placeInPile(composite, layer);
  if (others.length === 0) return null;
  const match = async (matched: TonedLayer, to: string | null) => {
    setBusy(true);
    await addMatch(desk, matched, to);
    setBusy(false);
  };
  const matchBeneath = async () => {
    const id = newId();
    const name = `Matched to ${layer.name}`.slice(0, LONGEST);
    desk.edit({ kind: "add_toning", layer_id: id, name, tones: [], index: beneath });
    await match({ ...EMPTY_TONING, id, name }, layer.id);
  };
  const choices = [
    ...(isPlaced(layer) ? [{ id: NOTHING_NAMED, label: BEHIND }] : []),
    ...others.map((one) => ({ id: one.id, label: one.name })),
  ];
  return (
    <>
      {isBusy ? "Looking for a match… " : "Match it to "}
      {isBusy ? null : (
        <LiveSelect
          label="Match it to"
          value=""
          fallback={isPlaced(layer) ? `${BEHIND}, or a layer` : "a layer"}
          choices={choices}
          onChange={(to) => void match(layer, to === NOTHING_NAMED ? null : to)}
        />
      )}
      {beneath > 0 && isPlaced(layer) && !isBusy ? (
        <>
          , or make{" "}
          <LiveWord onPress={() => void matchBeneath()}>everything beneath fit it</LiveWord>
        </>
      ) : null}
      .{" "}
    </>
  );
}

const LONGEST = 120;

/** As the service makes one without tones. */
const EMPTY_TONING = {
  kind: "toning",
  blend: "normal",
  opacity: 1,
  visible: true,
  locked: false,
  mask: null,
  fades: [],
  effects: [],
  tones: [],
} as const;

/** Return at which place a layer lies that lies in no group; 0 for others. */
function placeInPile(composite: Composite, layer: Layer): number {
  return Math.max(
    composite.layers.findIndex((one) => one.id === layer.id),
    0,
  );
}
