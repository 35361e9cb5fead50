/** Where a layer lies, how large it is and how far it is turned, in numbers. */

import { PLACEMENT } from "@generated/limits";
import { type ReactElement, useState } from "react";
import styled from "styled-components";
import type { PlacedLayer, Placement } from "@/model/composite";
import { clampedScale, wrappedTurn } from "@/model/geometry";
import { frameSize } from "@/model/shaping";
import { fromPixels, inPixels, type Unit } from "@/model/sizes";
import { useSettings } from "@/state/settings";
import { LiveSelect } from "@/ui/LiveSelect";
import { between, NumberBox } from "@/ui/NumberBox";
import { Tick } from "@/ui/Tick";
import { Words } from "@/ui/Words";

const Pair = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 10px;
`;

const Foot = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: space-between;
  gap: 4px 12px;
`;

const UNITS = [
  { id: "px", label: "pixels and %" },
  { id: "cm", label: "cm" },
  { id: "in", label: "inches" },
] as const;

const PERCENT = 100;
const DIGITS: Readonly<Record<Unit, number>> = { px: 1, cm: 2, in: 3 };

interface PlaceNumbersProps {
  /** As it lies on the canvas. */
  readonly layer: PlacedLayer;
  readonly ppi: number;
  readonly isOff: boolean;
  onChange(changes: Partial<Placement>): void;
}

export function PlaceNumbers({ layer, ppi, isOff, onChange }: PlaceNumbersProps): ReactElement {
  const place = layer.placement;
  // A group always keeps its proportions.
  const isGroup = layer.kind === "group";
  const { unit, setUnit } = useSettings();
  const even = Math.abs(place.scale_x / place.scale_y - 1) < 1e-6;
  const [wantsFree, setWantsFree] = useState(false);
  const inProportion = isGroup || (even && !wantsFree);
  const position = (axis: "x" | "y", label: string) => (
    <Length
      label={label}
      pixels={place[axis]}
      limits={PLACEMENT[axis]}
      {...{ unit, ppi, isOff }}
      onChange={(pixels) => onChange({ [axis]: pixels })}
    />
  );
  return (
    <>
      <Pair>
        {position("x", "Across")}
        {position("y", "Down")}
      </Pair>
      <Pair>
        <Sizes {...{ layer, unit, ppi, isOff, inProportion, onChange }} />
        <NumberBox
          label="Turn"
          {...between(PLACEMENT.turn)}
          digits={1}
          step={0.1}
          unit="°"
          isDisabled={isOff}
          value={rounded(place.turn, 1)}
          onChange={(turn) => onChange({ turn: wrappedTurn(turn) })}
        />
      </Pair>
      <Foot>
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
        <Words>
          in{" "}
          <LiveSelect
            label="What it is measured in"
            value={unit}
            choices={UNITS}
            onChange={(id) => setUnit(id as Unit)}
          />
        </Words>
      </Foot>
    </>
  );
}

interface SizesProps extends PlaceNumbersProps {
  readonly unit: Unit;
  readonly inProportion: boolean;
}

/** As a share of the photo's own pixels, or as long as it is on paper. */
function Sizes(props: SizesProps): ReactElement {
  const { layer, unit, ppi, isOff, inProportion, onChange } = props;
  const { placement } = layer;
  const frame = frameSize(placement, layer);
  const scaled = (axis: "scale_x" | "scale_y", scale: number) => {
    const kept = clampedScale(scale);
    onChange(inProportion ? { scale_x: kept, scale_y: kept } : { [axis]: kept });
  };
  const share = (axis: "scale_x" | "scale_y", label: string) => (
    <NumberBox
      label={label}
      min={0.1}
      max={PERCENT * PLACEMENT.scale_x.maximum}
      digits={1}
      step={0.1}
      unit="%"
      isDisabled={isOff}
      value={rounded(placement[axis] * PERCENT, 1)}
      onChange={(percent) => scaled(axis, percent / PERCENT)}
    />
  );
  const length = (axis: "scale_x" | "scale_y", side: number, label: string) => (
    <Length
      label={label}
      pixels={placement[axis] * side}
      limits={{ minimum: 1, maximum: PLACEMENT.x.maximum }}
      {...{ unit, ppi, isOff }}
      onChange={(pixels) => scaled(axis, pixels / side)}
    />
  );
  if (unit !== "px") {
    return (
      <>
        {length("scale_x", frame.width, "Width")}
        {length("scale_y", frame.height, "Height")}
      </>
    );
  }
  if (inProportion) return share("scale_x", "Size");
  return (
    <>
      {share("scale_x", "Width")}
      {share("scale_y", "Height")}
    </>
  );
}

interface LengthProps {
  readonly label: string;
  readonly pixels: number;
  readonly limits: { readonly minimum: number; readonly maximum: number };
  readonly unit: Unit;
  readonly ppi: number;
  readonly isOff: boolean;
  onChange(pixels: number): void;
}

function Length({ label, pixels, limits, unit, ppi, isOff, onChange }: LengthProps): ReactElement {
  const digits = DIGITS[unit];
  return (
    <NumberBox
      label={label}
      // Whole steps: the box counts its steps from there.
      min={Math.ceil(fromPixels(limits.minimum, unit, ppi) * 10 ** digits) / 10 ** digits}
      max={Math.floor(fromPixels(limits.maximum, unit, ppi) * 10 ** digits) / 10 ** digits}
      digits={digits}
      step={10 ** -digits}
      unit={unit}
      isDisabled={isOff}
      value={rounded(fromPixels(pixels, unit, ppi), digits)}
      onChange={(length) => onChange(inPixels(length, unit, ppi))}
    />
  );
}

function rounded(value: number, digits: number): number {
  return Math.round(value * 10 ** digits) / 10 ** digits;
}
