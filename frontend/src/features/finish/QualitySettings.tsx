/** How good a file is: quality, colours, bits, packing. */

import type { ReactElement } from "react";
import type { Finishing } from "@/features/finish/useFinishing";
import { canBeExact, hasDeep, hasFineColor, hasQuality } from "@/model/finishing";
import { Choice } from "@/ui/Choice";
import { Fields } from "@/ui/Fields";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { Tick } from "@/ui/Tick";

const DEPTHS = [
  { id: "8", label: "8 bits, as screens show" },
  { id: "16", label: "16 bits, to go on with" },
] as const;

const PACKINGS = [
  { id: "deflate", label: "packed small" },
  { id: "lzw", label: "packed for older programs" },
] as const;

const COLORS = [
  { id: "auto", label: "by quality" },
  { id: "fine", label: "fine" },
  { id: "half", label: "at half detail" },
] as const;

export function QualitySettings({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { settings, change } = finishing;
  const { format, fine_color } = settings;
  const fineness = fine_color === null ? "auto" : fine_color ? "fine" : "half";
  return (
    <Fields>
      {hasQuality(settings) ? (
        <LabelledSlider
          label="Quality"
          value={settings.quality}
          min={1}
          max={100}
          unit=""
          fallback={90}
          onChange={(quality) => change({ quality })}
          onChangeEnd={(quality) => change({ quality })}
        />
      ) : null}
      {canBeExact(format) ? (
        <Tick isSelected={settings.exact} onChange={(exact) => change({ exact })}>
          every pixel exact
        </Tick>
      ) : null}
      {hasFineColor(format) && !settings.exact ? (
        <Choice
          label="Detail of colours"
          value={fineness}
          choices={COLORS}
          onChange={(id) => change({ fine_color: id === "auto" ? null : id === "fine" })}
        />
      ) : null}
      {format === "jpeg" ? (
        <Tick isSelected={settings.progressive} onChange={(progressive) => change({ progressive })}>
          comes into sight whole, then sharper
        </Tick>
      ) : null}
      {hasDeep(format) ? (
        <Choice
          label="Bits a channel"
          value={String(settings.bits) as "8" | "16"}
          choices={DEPTHS}
          onChange={(id) => change({ bits: id === "16" ? 16 : 8 })}
        />
      ) : null}
      {format === "tiff" ? (
        <Choice
          label="Packing"
          value={settings.packing}
          choices={PACKINGS}
          onChange={(packing) => change({ packing })}
        />
      ) : null}
    </Fields>
  );
}
