/** Finish: choose format and size, have the file made, and save it. */

import { EXPORT_REQUEST } from "@generated/limits";
import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { exportUrl } from "@/api/calls";
import { type Canvas, type Composite, isChanging, type Layer, layerById } from "@/model/composite";
import { fromPixels } from "@/model/sizes";
import { sayLength } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { expectedComposite, useComposite } from "@/state/project";
import { color, font } from "@/theme/tokens";
import { PlainButton, StrongButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { ColorWell } from "@/ui/ColorWell";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { between, NumberBox } from "@/ui/NumberBox";
import { Progress } from "@/ui/Progress";
import { Sheet } from "@/ui/Sheet";
import { useDeskActions } from "@/work/DeskContext";
import { useFinish } from "@/work/useFinish";

type What = "whole" | "piece" | "apart";
type Format = "png" | "jpeg" | "webp" | "tiff" | "openraster";

const FORMATS = [
  { id: "png", label: "PNG, every pixel exact" },
  { id: "jpeg", label: "JPEG, a small file" },
  { id: "webp", label: "WebP, small, for web pages" },
  { id: "tiff", label: "TIFF, exact, for print shops" },
  { id: "openraster", label: "OpenRaster, with its layers" },
] as const;

const LAYERED_WORDS =
  "Every layer as its own picture, for other programs; opened here again, all is as it was.";

const MOST_APART = EXPORT_REQUEST.apart.maxItems;

const APART_WORDS =
  "One ZIP with a picture of each layer on the whole sheet, all of one size: with its cut, but at full strength and without fades.";

const PIECE_WORDS =
  "by itself, as large as the sheet and see-through around it: with its cut, fades, tones and shadow, at full strength.";

const SHARES = [
  { id: "100", label: "Full size" },
  { id: "50", label: "Half" },
  { id: "25", label: "Quarter" },
] as const;

/** WebP cannot be larger. */
const LONGEST_WEBP = 16_383;

const Body = styled.div`
  display: grid;
  gap: 16px;
`;

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
`;

const Says = styled.p`
  color: ${color.softInk};
  font-family: ${font.reading};
  font-size: 15px;
`;

const Trouble = styled.p`
  color: ${color.trouble};
`;

const Saved = styled.a`
  color: ${color.live};
`;

interface FinishSheetProps {
  readonly isOpen: boolean;
  onClose(): void;
}

export function FinishSheet({ isOpen, onClose }: FinishSheetProps): ReactElement {
  const canvas = useComposite()?.canvas;
  return (
    <Sheet title="Finish" isOpen={isOpen} onClose={onClose}>
      {canvas ? <FinishForm canvas={canvas} /> : null}
    </Sheet>
  );
}

function FinishForm({ canvas }: { readonly canvas: Canvas }): ReactElement {
  const desk = useDeskActions();
  const [format, setFormat] = useState<Format>(canvas.background === null ? "png" : "jpeg");
  const [width, setWidth] = useState(canvas.width);
  const [quality, setQuality] = useState(90);
  const [matte, setMatte] = useState("#ffffff");
  const { what, piece, setWhat } = useWhat();
  const finish = useFinish(desk.projectId);
  const height = Math.max(1, Math.round((canvas.height * width) / canvas.width));
  const chooseWhat = (next: What) => {
    setWhat(next);
    // What lies on nothing is seldom wanted on a colour.
    if (next === "piece" && format === "jpeg") setFormat("png");
  };
  return (
    <Body>
      {format === "openraster" ? null : (
        <WhatChoice what={what} piece={piece} onChange={chooseWhat} />
      )}
      <Choice<Format> label="Format" value={format} choices={FORMATS} onChange={setFormat} />
      {format === "jpeg" || format === "webp" ? (
        <LabelledSlider
          label="Quality"
          value={quality}
          min={30}
          max={100}
          unit=""
          fallback={90}
          onChange={setQuality}
          onChangeEnd={setQuality}
        />
      ) : null}
      {format === "jpeg" && (canvas.background === null || what === "piece") ? (
        <MatteChoice matte={matte} onChange={setMatte} />
      ) : null}
      {format === "openraster" ? null : (
        <SizeChoice canvas={canvas} width={width} onChange={setWidth} />
      )}
      <Says>{sayFile(canvas, format, width, height)}</Says>
      <FinishProgress
        finish={finish}
        onStart={() =>
          finish.start({ format, width, quality, matte, ...partsFor(what, format, piece) })
        }
      />
    </Body>
  );
}

interface WhatChoiceProps {
  readonly what: What;
  /** The layer that can be saved alone. */
  readonly piece: Layer | null;
  onChange(what: What): void;
}

function WhatChoice({ what, piece, onChange }: WhatChoiceProps): ReactElement | null {
  const count = shownLayers(useComposite()).length;
  const choices: { id: What; label: string }[] = [{ id: "whole", label: "The whole picture" }];
  if (piece) choices.push({ id: "piece", label: "The open layer alone" });
  if (count > 1 && count <= MOST_APART) {
    choices.push({ id: "apart", label: "Each layer by itself" });
  }
  if (choices.length === 1) return null;
  return (
    <>
      <Choice<What> label="What is saved" value={what} choices={choices} onChange={onChange} />
      {count > MOST_APART ? (
        <Says>{`At most ${MOST_APART} layers can be saved each by itself; put some together.`}</Says>
      ) : null}
      {what === "apart" ? <Says>{APART_WORDS}</Says> : null}
      {what === "piece" && piece ? <Says>{`${piece.name} ${PIECE_WORDS}`}</Says> : null}
    </>
  );
}

/** Return what is to be saved, and the open layer where that can be it. */
function useWhat() {
  const composite = useComposite();
  const open = useDesk((desk) => desk.openLayer);
  const [wanted, setWhat] = useState<What>("whole");
  const layer = composite ? layerById(composite, open) : undefined;
  const piece = layer && !isChanging(layer) ? layer : null;
  const what: What = wanted === "piece" && !piece ? "whole" : wanted;
  return { what, piece, setWhat };
}

interface MatteChoiceProps {
  readonly matte: string;
  onChange(matte: string): void;
}

function MatteChoice({ matte, onChange }: MatteChoiceProps): ReactElement {
  return (
    <Line>
      <ColorWell label="Colour behind see-through places" value={matte} onChange={onChange} />
      <span>lies behind see-through places, since a JPEG has none</span>
    </Line>
  );
}

function shownLayers(composite: Composite | null): string[] {
  return (composite?.layers ?? [])
    .filter((layer) => layer.visible && !isChanging(layer))
    .map(({ id }) => id);
}

/** Return which layers are saved by themselves: one as the picture, or each, the front one first. */
function partsFor(
  what: What,
  format: Format,
  piece: Layer | null,
): { readonly apart: string[]; readonly piece: string | null } {
  const chosen = format === "openraster" ? "whole" : what;
  return {
    apart: chosen === "apart" ? shownLayers(expectedComposite()).reverse() : [],
    piece: chosen === "piece" && piece ? piece.id : null,
  };
}

interface SizeChoiceProps {
  readonly canvas: Canvas;
  readonly width: number;
  onChange(width: number): void;
}

function SizeChoice({ canvas, width, onChange }: SizeChoiceProps): ReactElement {
  const share = (id: string) => Math.max(1, Math.round((canvas.width * Number(id)) / 100));
  return (
    <>
      <Choice
        label="Size"
        value={SHARES.find(({ id }) => share(id) === width)?.id ?? null}
        choices={SHARES}
        onChange={(id) => onChange(share(id))}
      />
      <NumberBox
        label="Width"
        value={width}
        {...between(EXPORT_REQUEST.width)}
        step={1}
        unit="px"
        onChange={onChange}
      />
    </>
  );
}

interface FinishProgressProps {
  readonly finish: ReturnType<typeof useFinish>;
  onStart(): void;
}

function FinishProgress({ finish, onStart }: FinishProgressProps): ReactElement {
  if (finish.phase === "working") {
    return (
      <Line>
        <Progress label="Making the picture" share={finish.progress} />
        <PlainButton onPress={finish.stop}>Stop</PlainButton>
      </Line>
    );
  }
  return (
    <>
      <Line>
        <StrongButton onPress={onStart}>Save the picture</StrongButton>
        {finish.phase === "done" ? (
          <span role="status">
            Saved as{" "}
            <Saved href={exportUrl(finish.jobId)} download>
              {finish.fileName}
            </Saved>
          </span>
        ) : null}
      </Line>
      {finish.phase === "failed" ? <Trouble role="alert">{finish.reason}</Trouble> : null}
    </>
  );
}

function sayFile(canvas: Canvas, format: Format, width: number, height: number): string {
  if (format === "openraster") return LAYERED_WORDS;
  const size = saySize(canvas, width, height);
  const isTooLong = format === "webp" && Math.max(width, height) > LONGEST_WEBP;
  return isTooLong
    ? `${size} WebP takes at most ${LONGEST_WEBP} pixels on a side; choose a smaller size.`
    : size;
}

/** Say how large it is on paper: the print size stays, so the ppi follows the pixels. */
function saySize(canvas: Canvas, width: number, height: number): string {
  const across = sayLength(fromPixels(canvas.width, "cm", canvas.ppi));
  const down = sayLength(fromPixels(canvas.height, "cm", canvas.ppi));
  const ppi = Math.round((canvas.ppi * width) / canvas.width);
  return `${width} × ${height} pixels; on paper ${across} × ${down} cm at ${ppi} ppi, in sRGB.`;
}
