/** Place by number: position, size, turn, flips, and the usual places in one go. */

import { PLACEMENT } from "@generated/limits";
import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { useDeskActions } from "@/features/desk/DeskContext";
import { LineUp } from "@/features/pile/LineUp";
import { ShapeSettings } from "@/features/pile/ShapeSettings";
import { isLocked, type PlacedLayer, type Placement } from "@/model/composite";
import { clampedScale, fillingCanvas, fittedInside, wrappedTurn } from "@/model/geometry";
import { intoPile, onCanvas } from "@/model/nesting";
import { useDesk } from "@/state/desk";
import { useComposite } from "@/state/project";
import { useCalmLive } from "@/state/useCalmLive";
import { PlainButton } from "@/ui/Button";
import { between, NumberBox } from "@/ui/NumberBox";
import { Tick } from "@/ui/Tick";

const Pair = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 10px;
`;

const Buttons = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;

  > * {
    flex: 1 1 auto;
  }
`;

const PERCENT = 100;

export function PlaceFacet({ layer }: { readonly layer: PlacedLayer }): ReactElement | null {
  const desk = useDeskActions();
  const composite = useComposite();
  const live = useCalmLive();
  const { setLive } = useDesk((store) => store.actions);
  if (!composite) return null;
  const { canvas } = composite;
  const isLive = live?.kind === "place_layer" && live.layer_id === layer.id;
  const shown = onCanvas(composite, isLive ? { ...layer, placement: live.placement } : layer);
  const place = shown.placement;
  const off = isLocked(composite, layer.id);
  const placing = (placement: Placement) =>
    ({
      kind: "place_layer",
      layer_id: layer.id,
      placement: intoPile(composite, layer.id, placement),
    }) as const;
  const change = (changes: Partial<Placement>) => desk.edit(placing({ ...place, ...changes }));
  return (
    <>
      <PlaceNumbers place={place} isOff={off} isGroup={layer.kind === "group"} onChange={change} />
      <Buttons>
        <PlainButton isDisabled={off} onPress={() => change({ flipped: !place.flipped })}>
          Flip left–right
        </PlainButton>
        <PlainButton isDisabled={off} onPress={() => change({ upended: !place.upended })}>
          Flip top–bottom
        </PlainButton>
        <PlainButton isDisabled={off || place.turn === 0} onPress={() => change({ turn: 0 })}>
          Upright
        </PlainButton>
        <PlainButton isDisabled={off} onPress={() => change(fittedInside(shown, canvas))}>
          Fit inside
        </PlainButton>
        <PlainButton isDisabled={off} onPress={() => change(fillingCanvas(shown, canvas))}>
          Fill
        </PlainButton>
        <PlainButton
          isDisabled={off}
          onPress={() => change({ x: canvas.width / 2, y: canvas.height / 2 })}
        >
          Centre
        </PlainButton>
      </Buttons>
      {shown.kind === "photo" ? (
        <ShapeSettings
          layer={shown}
          canvas={canvas}
          isOff={off}
          onPlace={(placement) => {
            desk.edit(placing(placement));
            setLive(null);
          }}
          onTry={(placement) => setLive(placing(placement))}
        />
      ) : null}
      {layer.kind === "photo" ? <LineUp layer={layer} composite={composite} isOff={off} /> : null}
    </>
  );
}

interface PlaceNumbersProps {
  readonly place: Placement;
  readonly isOff: boolean;
  /** A group always keeps its proportions. */
  readonly isGroup: boolean;
  onChange(changes: Partial<Placement>): void;
}

function PlaceNumbers({ place, isOff, isGroup, onChange }: PlaceNumbersProps): ReactElement {
  const even = Math.abs(place.scale_x / place.scale_y - 1) < 1e-6;
  const [wantsFree, setWantsFree] = useState(false);
  const inProportion = isGroup || (even && !wantsFree);
  const shared = { isDisabled: isOff, digits: 1 } as const;
  const scale = {
    ...shared,
    min: 0.1,
    max: PERCENT * PLACEMENT.scale_x.maximum,
    step: 0.1,
    unit: "%",
  } as const;
  const position = {
    ...shared,
    ...between(PLACEMENT.x),
    step: 0.1,
    unit: "px",
  } as const;
  const sized = (percent: number) => clampedScale(percent / PERCENT);
  return (
    <>
      <Pair>
        <NumberBox
          {...position}
          label="Across"
          value={round(place.x)}
          onChange={(x) => onChange({ x })}
        />
        <NumberBox
          {...position}
          label="Down"
          value={round(place.y)}
          onChange={(y) => onChange({ y })}
        />
      </Pair>
      <Pair>
        {inProportion ? (
          <NumberBox
            {...scale}
            label="Size"
            value={round(place.scale_x * PERCENT)}
            onChange={(size) => onChange({ scale_x: sized(size), scale_y: sized(size) })}
          />
        ) : (
          <NumberBox
            {...scale}
            label="Width"
            value={round(place.scale_x * PERCENT)}
            onChange={(size) => onChange({ scale_x: sized(size) })}
          />
        )}
        {inProportion ? null : (
          <NumberBox
            {...scale}
            label="Height"
            value={round(place.scale_y * PERCENT)}
            onChange={(size) => onChange({ scale_y: sized(size) })}
          />
        )}
        <NumberBox
          {...shared}
          label="Turn"
          {...between(PLACEMENT.turn)}
          step={0.1}
          unit="°"
          value={round(place.turn)}
          onChange={(turn) => onChange({ turn: wrappedTurn(turn) })}
        />
      </Pair>
      {isGroup ? null : (
        <Tick
          isSelected={inProportion}
          isDisabled={isOff}
          onChange={(keep) => {
            setWantsFree(!keep);
            if (keep && !even) onChange({ scale_y: place.scale_x });
          }}
        >
          In proportion
        </Tick>
      )}
    </>
  );
}

function round(value: number): number {
  return Math.round(value * 10) / 10;
}
