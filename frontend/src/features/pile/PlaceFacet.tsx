/** Place by number: position, size, turn, flips, and the usual places in one go. */

import { type ReactElement, useState } from "react";
import { Checkbox } from "react-aria-components";
import styled from "styled-components";
import { useDeskActions } from "@/features/desk/DeskContext";
import type { Layer, Placement } from "@/model/composite";
import { clampedScale, fillingCanvas, fittedInside, wrappedTurn } from "@/model/geometry";
import { useDesk } from "@/state/desk";
import { useComposite } from "@/state/project";
import { color } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { NumberBox } from "@/ui/NumberBox";

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

const Tick = styled(Checkbox)`
  display: flex;
  align-items: center;
  gap: 8px;
  color: ${color.softInk};
  cursor: pointer;

  &::before {
    content: "";
    width: 14px;
    height: 14px;
    border: 1px solid ${color.ruleStrong};
    background: ${color.sheet};
  }

  &[data-selected]::before {
    border-color: ${color.on};
    background: ${color.on};
    box-shadow: inset 0 0 0 2px ${color.sheet};
  }

  &[data-focus-visible]::before {
    outline: 2px solid ${color.on};
    outline-offset: 2px;
  }
`;

const FARTHEST = 200_000;
const PERCENT = 100;

export function PlaceFacet({ layer }: { readonly layer: Layer }): ReactElement {
  const desk = useDeskActions();
  const canvas = useComposite()?.canvas;
  const live = useDesk((state) => state.live);
  const place =
    live?.kind === "place_layer" && live.layer_id === layer.id ? live.placement : layer.placement;
  const change = (changes: Partial<Placement>) =>
    desk.edit({
      kind: "place_layer",
      layer_id: layer.id,
      placement: { ...layer.placement, ...changes },
    });
  const off = layer.locked;
  return (
    <>
      <PlaceNumbers layer={layer} place={place} onChange={change} />
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
        {canvas ? (
          <>
            <PlainButton isDisabled={off} onPress={() => change(fittedInside(layer, canvas))}>
              Fit inside
            </PlainButton>
            <PlainButton isDisabled={off} onPress={() => change(fillingCanvas(layer, canvas))}>
              Fill
            </PlainButton>
            <PlainButton
              isDisabled={off}
              onPress={() => change({ x: canvas.width / 2, y: canvas.height / 2 })}
            >
              Centre
            </PlainButton>
          </>
        ) : null}
      </Buttons>
    </>
  );
}

interface PlaceNumbersProps {
  readonly layer: Layer;
  readonly place: Placement;
  onChange(changes: Partial<Placement>): void;
}

function PlaceNumbers({ layer, place, onChange }: PlaceNumbersProps): ReactElement {
  const even = Math.abs(place.scale_x / place.scale_y - 1) < 1e-6;
  const [wantsFree, setWantsFree] = useState(false);
  const inProportion = even && !wantsFree;
  const shared = { isDisabled: layer.locked, digits: 1 } as const;
  const scale = { ...shared, min: 0.1, max: 20_000, step: 0.1, unit: "%" } as const;
  const position = { ...shared, min: -FARTHEST, max: FARTHEST, step: 0.1, unit: "px" } as const;
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
          min={-360}
          max={360}
          step={0.1}
          unit="°"
          value={round(place.turn)}
          onChange={(turn) => onChange({ turn: wrappedTurn(turn) })}
        />
      </Pair>
      <Tick
        isSelected={inProportion}
        isDisabled={layer.locked}
        onChange={(keep) => {
          setWantsFree(!keep);
          if (keep && !even) onChange({ scale_y: place.scale_x });
        }}
      >
        In proportion
      </Tick>
    </>
  );
}

function round(value: number): number {
  return Math.round(value * 10) / 10;
}
