/** What is done with a mask as a whole: inside out, how it moves, its edge, its strength. */

import { MASK } from "@generated/limits";
import type { ReactElement } from "react";
import { isPlaced, type Layer, type Mask } from "@/model/composite";
import { hasColours } from "@/model/drawing";
import { useDesk } from "@/state/desk/desk";
import { useCalmLive } from "@/state/useCalmLive";
import { Choice } from "@/ui/Choice";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { NumberGrid } from "@/ui/NumberGrid";
import { FacetWords } from "@/ui/Words";
import { useDeskActions } from "@/work/DeskContext";

const PERCENT = 100;

const WHOLE = [
  { id: "as", label: "as it is" },
  { id: "out", label: "inside out" },
] as const;
const SEEN = [
  { id: "hatched", label: "Picture" },
  { id: "mask", label: "Mask" },
  { id: "edge", label: "Edge" },
  { id: "rim", label: "Old rim" },
] as const;
const MOVING = [
  { id: "with", label: "with the layer" },
  { id: "alone", label: "not with the layer" },
] as const;

export function WholeLine({
  layer,
  mask,
}: {
  readonly layer: Layer;
  readonly mask: Mask;
}): ReactElement {
  const desk = useDeskActions();
  const live = useCalmLive();
  const { setLive, setMaskSeen } = useDesk((state) => state.actions);
  const seen = useDesk((state) => state.maskSeen);
  const isLive = live?.kind === "settle_mask" && live.layer_id === layer.id;
  const strength = isLive ? live.strength : mask.strength;
  const cleaned = isLive ? (live.cleaned ?? 0) : mask.cleaned;
  const settled = (changes: Partial<Settled>) => {
    const { inverted, strength, softened, grown, smoothed, cleaned } = mask;
    const kept = { inverted, strength, softened, grown, smoothed, cleaned };
    return { kind: "settle_mask", layer_id: layer.id, ...kept, ...changes } as const;
  };
  return (
    <>
      <FacetWords>
        All of it{" "}
        <LiveSelect
          label="Turned inside out or not"
          value={mask.inverted ? "out" : "as"}
          choices={WHOLE}
          onChange={(id) => desk.edit(settled({ inverted: id === "out" }))}
        />
        {isPlaced(layer) ? (
          <>
            , moving{" "}
            <LiveSelect
              label="What it moves with"
              value={mask.linked ? "with" : "alone"}
              choices={MOVING}
              onChange={(id) =>
                desk.edit({ kind: "link_mask", layer_id: layer.id, linked: id === "with" })
              }
            />
          </>
        ) : null}
        .{" "}
        <LiveWord onPress={() => desk.edit({ kind: "drop_mask", layer_id: layer.id })}>
          Show all of it again
        </LiveWord>
        .
      </FacetWords>
      <Choice label="What is seen" value={seen} choices={SEEN} onChange={setMaskSeen} />
      <Edge mask={mask} onTake={(changes) => desk.edit(settled(changes))} />
      {hasColours(layer) ? (
        <LabelledSlider
          label="Clean its edge"
          value={Math.round(cleaned * PERCENT)}
          min={0}
          max={100}
          unit="%"
          fallback={100}
          onChange={(percent) => setLive(settled({ cleaned: percent / PERCENT }))}
          onChangeEnd={(percent) => {
            setLive(null);
            if (percent / PERCENT !== mask.cleaned)
              desk.edit(settled({ cleaned: percent / PERCENT }));
          }}
        />
      ) : null}
      <LabelledSlider
        label="Strength"
        value={Math.round(strength * PERCENT)}
        min={0}
        max={100}
        unit="%"
        fallback={100}
        onChange={(percent) => setLive(settled({ strength: percent / PERCENT }))}
        onChangeEnd={(percent) => {
          setLive(null);
          if (percent / PERCENT !== mask.strength)
            desk.edit(settled({ strength: percent / PERCENT }));
        }}
      />
    </>
  );
}

type Settled = Pick<Mask, "inverted" | "strength" | "softened" | "grown" | "smoothed" | "cleaned">;

interface EdgeProps {
  readonly mask: Mask;
  onTake(changes: Partial<Settled>): void;
}

/** What is done with the edge of the whole, in the mask's own pixels. */
function Edge({ mask, onTake }: EdgeProps): ReactElement {
  const numbers = EDGES.map(({ label, of }) => ({
    label,
    value: mask[of],
    limits: MASK[of],
    onChange: (value: number) => onTake({ [of]: value }),
  }));
  return <NumberGrid numbers={numbers} />;
}

const EDGES = [
  { label: "Soften", of: "softened" },
  { label: "Grow", of: "grown" },
  { label: "Smooth", of: "smoothed" },
] as const;
