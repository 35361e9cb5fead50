/** Another size for the sheet: from the catalogue, with or without all that lies on it. */

import { CANVAS } from "@generated/limits";
import { type ReactElement, useEffect, useState } from "react";
import styled from "styled-components";
import { type Anchor, type Keeping, resized, straightened } from "@/model/canvas";
import type { Canvas } from "@/model/composite";
import { FIXED_NAMES, FREELY, ITS_OWN, named } from "@/model/proportions";
import { fromPixels, laidOut, PRINT_SIZES, SCREEN_SIZES, toPixels, type Unit } from "@/model/sizes";
import { useComposite } from "@/state/project";
import { useShaping } from "@/state/shaping";
import { PlainButton, StrongButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { NumberBox } from "@/ui/NumberBox";
import { Words } from "@/ui/Words";
import { useDeskActions } from "@/work/DeskContext";

const Pair = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 10px;
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;

const UNITS = [
  { id: "px", label: "pixels" },
  { id: "cm", label: "cm" },
  { id: "in", label: "inches" },
];

const KEEPING = [
  { id: "stay", label: "leaving everything as large as it is" },
  { id: "fill", label: "resizing everything until it fills the sheet" },
  { id: "fit", label: "resizing everything until it fits into the sheet" },
];

const ANCHORS: Readonly<Record<string, Anchor>> = {
  "the middle": { x: 0.5, y: 0.5 },
  "the upper left": { x: 0, y: 0 },
  "the top": { x: 0.5, y: 0 },
  "the upper right": { x: 1, y: 0 },
  "the right": { x: 1, y: 0.5 },
  "the lower right": { x: 1, y: 1 },
  "the bottom": { x: 0.5, y: 1 },
  "the lower left": { x: 0, y: 1 },
  "the left": { x: 0, y: 0.5 },
};

interface Wanted {
  readonly width: number;
  readonly height: number;
}

/** What is typed counts for the canvas that it was typed for; with another it begins anew. */
function useWanted(canvas: Canvas): [Wanted, (wanted: Wanted) => void] {
  const [typed, setTyped] = useState({ of: canvas, wanted: canvas as Wanted });
  const { width, height } = typed.of === canvas ? typed.wanted : canvas;
  return [{ width, height }, (wanted) => setTyped({ of: canvas, wanted })];
}

export function SheetSizes({ canvas }: { readonly canvas: Canvas }): ReactElement {
  const desk = useDeskActions();
  const [unit, setUnit] = useState<Unit>("px");
  const [keeping, setKeeping] = useState<Keeping>("stay");
  const [stays, setStays] = useState("the middle");
  const [size, setSize] = useWanted(canvas);
  const isSame = size.width === canvas.width && size.height === canvas.height;
  return (
    <>
      <Words>
        Make it <UsualSizes canvas={canvas} onChoose={setSize} /> or any other in{" "}
        <LiveSelect
          label="Unit"
          value={unit}
          choices={UNITS}
          onChange={(id) => setUnit(id as Unit)}
        />
        ,{" "}
        <LiveSelect
          label="What becomes of everything"
          value={keeping}
          choices={KEEPING}
          onChange={(id) => setKeeping(id as Keeping)}
        />
        ;{" "}
        <LiveSelect
          label="What stays where it is"
          value={stays}
          choices={named(Object.keys(ANCHORS))}
          onChange={setStays}
        />{" "}
        stays.
      </Words>
      <Sides size={size} unit={unit} ppi={canvas.ppi} onChange={setSize} />
      <Row>
        <StrongButton
          isDisabled={isSame}
          onPress={() => desk.edit(resized(canvas, size, keeping, ANCHORS[stays]))}
        >
          Make it {size.width} × {size.height}
        </StrongButton>
        <PlainButton
          onPress={() =>
            desk.edit(resized(canvas, { width: canvas.height, height: canvas.width }, keeping))
          }
        >
          Lay it on its other side
        </PlainButton>
      </Row>
      <CropWords canvas={canvas} />
    </>
  );
}

interface SidesProps {
  readonly size: Wanted;
  readonly unit: Unit;
  readonly ppi: number;
  onChange(size: Wanted): void;
}

function Sides({ size, unit, ppi, onChange }: SidesProps): ReactElement {
  const digits = unit === "px" ? 0 : 2;
  const step = 10 ** -digits;
  const side = (name: keyof Wanted, label: string) => (
    <NumberBox
      label={label}
      value={Math.round(fromPixels(size[name], unit, ppi) / step) * step}
      min={step}
      max={fromPixels(CANVAS.width.maximum, unit, ppi)}
      step={step}
      digits={digits}
      onChange={(length) => onChange({ ...size, [name]: toPixels(length, unit, ppi) })}
    />
  );
  return (
    <Pair>
      {side("width", "Wide")}
      {side("height", "High")}
    </Pair>
  );
}

interface UsualSizesProps {
  readonly canvas: Canvas;
  onChoose(size: Wanted): void;
}

function UsualSizes({ canvas, onChoose }: UsualSizesProps): ReactElement {
  const photo = useComposite()?.layers.find((layer) => layer.kind === "photo");
  const choose = (id: string) => {
    if (id === PHOTO && photo) onChoose({ width: photo.width, height: photo.height });
    const chosen = [...PRINT_SIZES, ...SCREEN_SIZES].find((one) => one.id === id);
    if (!chosen) return;
    const pixels = {
      width: toPixels(chosen.width, chosen.unit, chosen.ppi),
      height: toPixels(chosen.height, chosen.unit, chosen.ppi),
    };
    onChoose(laidOut(pixels, canvas.height >= canvas.width));
  };
  return (
    <LiveSelect
      label="Size of the sheet"
      value=""
      fallback="a usual size"
      choices={[
        ...(photo ? [{ id: PHOTO, label: `as large as ${photo.name}` }] : []),
        ...PRINT_SIZES,
        ...SCREEN_SIZES,
      ]}
      onChange={choose}
    />
  );
}

const PHOTO = "photo";

const PROPORTIONS = named([FREELY, ITS_OWN, ...FIXED_NAMES]);

/** Cropping by hand: the sheet's edges on the stage. */
function CropWords({ canvas }: { readonly canvas: Canvas }): ReactElement {
  const desk = useDeskActions();
  const { sheet, setSheet, isLevelling, setLevelling } = useShaping();
  useEffect(() => () => setLevelling(false), [setLevelling]);
  return (
    <>
      <Words>
        To crop everything, pull the sheet's edges on the stage,{" "}
        <LiveSelect
          label="Proportion of the sheet"
          value={sheet}
          choices={PROPORTIONS}
          onChange={setSheet}
        />
        . Nothing is cut off for good.
      </Words>
      <Row>
        <PlainButton onPress={() => setLevelling(!isLevelling)}>
          {isLevelling ? "Leave it as it leans" : "Straighten by a line"}
        </PlainButton>
        <NumberBox
          label="or turn by"
          value={0}
          min={-45}
          max={45}
          step={0.1}
          digits={1}
          unit="°"
          onChange={(turn) => desk.edit(straightened(canvas, turn))}
        />
      </Row>
    </>
  );
}
