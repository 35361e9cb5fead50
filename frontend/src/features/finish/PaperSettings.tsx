/** The paper: its bleed, its marks, or several sheets that a poster is put together of. */

import type { ReactElement } from "react";
import type { Finishing } from "@/features/finish/useFinishing";
import { Choice } from "@/ui/Choice";
import { Fields } from "@/ui/Fields";
import { NumberBox } from "@/ui/NumberBox";
import { Tick } from "@/ui/Tick";

const SOURCES = [
  { id: "enlarged", label: "the picture, a little larger" },
  { id: "beyond", label: "what lies beyond its edge" },
] as const;

const A4 = { width_mm: 210, height_mm: 297, margin_mm: 6, overlap_mm: 10 };

export function PaperSettings({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { settings, change } = finishing;
  const { paper, tiling, format } = settings;
  const onPaper = (changes: Partial<typeof paper>) => change({ paper: { ...paper, ...changes } });
  if (tiling) return <TileSettings finishing={finishing} />;
  return (
    <Fields>
      <NumberBox
        label="Bleed"
        value={paper.bleed_mm}
        min={0}
        max={50}
        step={0.025}
        digits={3}
        unit="mm"
        onChange={(bleed_mm) => onPaper({ bleed_mm })}
      />
      {paper.bleed_mm > 0 ? (
        <Choice
          label="What fills the bleed"
          value={paper.bleed_from}
          choices={SOURCES}
          onChange={(bleed_from) => onPaper({ bleed_from })}
        />
      ) : null}
      {format === "pdf" ? (
        <>
          <Tick isSelected={paper.marks} onChange={(marks) => onPaper({ marks })}>
            marks where it is cut
          </Tick>
          <Tick isSelected={paper.bar} onChange={(bar) => onPaper({ bar })}>
            a bar of the colours
          </Tick>
          <Tick isSelected={false} onChange={() => change({ tiling: A4 })}>
            over several sheets of paper, as a poster
          </Tick>
        </>
      ) : null}
    </Fields>
  );
}

function TileSettings({ finishing }: { readonly finishing: Finishing }): ReactElement | null {
  const { settings, change } = finishing;
  const { tiling } = settings;
  if (!tiling) return null;
  const onTiles = (changes: Partial<typeof tiling>) =>
    change({ tiling: { ...tiling, ...changes } });
  const box = (label: string, name: keyof typeof tiling, min: number, max: number) => (
    <NumberBox
      label={label}
      value={tiling[name]}
      min={min}
      max={max}
      step={1}
      digits={1}
      unit="mm"
      onChange={(value) => onTiles({ [name]: value })}
    />
  );
  return (
    <Fields>
      <Tick isSelected onChange={() => change({ tiling: null })}>
        over several sheets of paper, as a poster
      </Tick>
      {box("Each sheet's width", "width_mm", 40, 2000)}
      {box("Each sheet's height", "height_mm", 40, 2000)}
      {box("Left free at its edges", "margin_mm", 0, 15)}
      {box("How far they overlap", "overlap_mm", 0, 50)}
    </Fields>
  );
}
