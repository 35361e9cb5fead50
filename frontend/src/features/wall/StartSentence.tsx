/** Start: a sentence whose live words say what the new picture is for. */

import { CANVAS } from "@generated/limits";
import { type ReactElement, useState } from "react";
import { FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { ACCEPTED } from "@/api/uploads";
import { useBegin, useBeginFromPhotos } from "@/features/wall/useStart";
import {
  laidOut,
  OWN_SIZE,
  PRINT_SIZES,
  PURPOSES,
  type Purpose,
  SCREEN_SIZES,
  type SheetSize,
  toPixels,
  type Unit,
} from "@/model/sizes";
import { color, font } from "@/theme/tokens";
import { StrongButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { between, NumberBox } from "@/ui/NumberBox";

const Band = styled.section`
  display: grid;
  grid-template-columns: 136px 1fr;
  align-items: start;
  padding: 14px 32px 8px;
  background: ${color.sheet};
`;

const Title = styled.h2`
  padding-top: 4px;
  font-family: ${font.name};
  font-size: 17px;
  font-weight: 700;
`;

const Line = styled.div`
  font-family: ${font.reading};
  font-size: 17.5px;
  line-height: 2;

  button[type="button"][data-begin] {
    margin: 0 10px;
    font-family: ${font.control};
    font-size: 14px;
  }
`;

const Own = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  max-width: 640px;
  margin-top: 8px;
`;

const Begin = styled(StrongButton)`
  margin: 0 12px;
  font-family: ${font.control};
  font-size: 14px;
  line-height: 1.4;
`;

const SHEETS = [
  { id: "#ffffff", label: "white" },
  { id: "clear", label: "nothing, see-through" },
  { id: "#808080", label: "mid-grey" },
  { id: "#000000", label: "black" },
] as const;

const STANDING = [
  { id: "upright", label: "upright" },
  { id: "side", label: "on its side" },
] as const;

const UNITS = [
  { id: "cm", label: "cm" },
  { id: "in", label: "inches" },
  { id: "px", label: "pixels" },
] as const;

const FIRST_OWN: SheetSize = {
  id: OWN_SIZE,
  label: "a size of my own",
  width: 20,
  height: 30,
  unit: "cm",
  ppi: 300,
};

export function StartSentence(): ReactElement {
  const [purpose, setPurpose] = useState<Purpose>("print");
  const [sizes, setSizes] = useState({ print: "30x40", screen: "wide" });
  const [own, setOwn] = useState(FIRST_OWN);
  const [upright, setUpright] = useState(true);
  const [sheet, setSheet] = useState("#ffffff");
  const begin = useBegin();
  const offered = [...(purpose === "print" ? PRINT_SIZES : SCREEN_SIZES), own];
  const chosen = offered.find(({ id }) => purpose !== "photo" && id === sizes[purpose]) ?? own;
  const isOwn = chosen.id === OWN_SIZE;
  const start = () => {
    const inPixels = {
      width: toPixels(chosen.width, chosen.unit, chosen.ppi),
      height: toPixels(chosen.height, chosen.unit, chosen.ppi),
    };
    const size = isOwn ? inPixels : laidOut(inPixels, upright);
    begin({ ...size, ppi: chosen.ppi, background: sheet === "clear" ? null : sheet });
  };
  return (
    <Band aria-label="Start">
      <Title>Start</Title>
      <div>
        <Line>
          A new picture{" "}
          <LiveSelect
            label="What it is for"
            value={purpose}
            choices={PURPOSES}
            onChange={(id) => setPurpose(id as Purpose)}
          />
          {purpose === "photo" ? (
            <PhotoStart />
          ) : (
            <>
              ,{" "}
              <LiveSelect
                label="Size"
                value={chosen.id}
                choices={offered}
                onChange={(id) => setSizes({ ...sizes, [purpose]: id })}
              />
              {isOwn ? null : (
                <>
                  ,{" "}
                  <LiveSelect
                    label="How it stands"
                    value={upright ? "upright" : "side"}
                    choices={STANDING}
                    onChange={(id) => setUpright(id === "upright")}
                  />
                </>
              )}
              , on{" "}
              <LiveSelect
                label="What it lies on"
                value={sheet}
                choices={SHEETS}
                onChange={setSheet}
              />
              .<Begin onPress={start}>Begin</Begin>
            </>
          )}
          or drop photos anywhere here.
        </Line>
        {isOwn && purpose !== "photo" ? <OwnSize size={own} onChange={setOwn} /> : null}
      </div>
    </Band>
  );
}

interface OwnSizeProps {
  readonly size: SheetSize;
  onChange(size: SheetSize): void;
}

function OwnSize({ size, onChange }: OwnSizeProps): ReactElement {
  const digits = size.unit === "px" ? 0 : 2;
  const side = {
    min: size.unit === "px" ? 1 : 0.1,
    max: CANVAS.width.maximum,
    step: 10 ** -digits,
    digits,
  };
  return (
    <Own>
      <NumberBox
        {...side}
        label="Width"
        value={size.width}
        onChange={(width) => onChange({ ...size, width })}
      />
      <NumberBox
        {...side}
        label="Height"
        value={size.height}
        onChange={(height) => onChange({ ...size, height })}
      />
      <Line>
        <LiveSelect
          label="Unit"
          value={size.unit}
          choices={UNITS}
          onChange={(unit) => onChange({ ...size, unit: unit as Unit })}
        />
      </Line>
      <NumberBox
        label="at"
        unit="ppi"
        {...between(CANVAS.ppi)}
        step={1}
        value={size.ppi}
        onChange={(ppi) => onChange({ ...size, ppi })}
      />
    </Own>
  );
}

function PhotoStart(): ReactElement {
  const begin = useBeginFromPhotos();
  return (
    <>
      .
      <FileTrigger
        allowsMultiple
        acceptedFileTypes={ACCEPTED.split(",")}
        onSelect={(files) => begin([...(files ?? [])])}
      >
        <Begin>Choose the photo…</Begin>
      </FileTrigger>
    </>
  );
}
