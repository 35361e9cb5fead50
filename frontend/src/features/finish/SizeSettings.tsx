/** How large a file is: by pixels, by a factor, or on paper. */

import type { ReactElement } from "react";
import { usePaperUnit } from "@/features/finish/FileSentence";
import type { Finishing } from "@/features/finish/useFinishing";
import type { FileSize } from "@/model/finishing";
import { Choice } from "@/ui/Choice";
import { Fields } from "@/ui/Fields";
import { NumberBox } from "@/ui/NumberBox";

const WAYS = [
  { id: "share", label: "times the sheet" },
  { id: "width", label: "pixels wide" },
  { id: "longest", label: "at most" },
  { id: "least", label: "at least" },
  { id: "paper", label: "on paper" },
] as const;

type Way = FileSize["by"];

const MM: Readonly<Record<"cm" | "in", number>> = { cm: 10, in: 25.4 };
const LONGEST = 30_000;
const MOST_MM = 10_000;
const MOST_PPI = 4800;

export function SizeSettings({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { settings, change, facts, project } = finishing;
  const { canvas } = project.composite;
  const begin = (way: Way): FileSize => {
    const width = facts?.width ?? canvas.width;
    const longest = Math.max(width, facts?.height ?? canvas.height);
    switch (way) {
      case "share":
        return { by: "share", share: 1 };
      case "width":
        return { by: "width", width };
      case "longest":
        return { by: "longest", longest };
      case "least":
        return { by: "least", least: longest };
      case "paper":
        return { by: "paper", width_mm: null, ppi: null };
    }
  };
  return (
    <Fields>
      <Choice<Way>
        label="Size"
        value={settings.size.by}
        choices={WAYS}
        onChange={(way) => change({ size: begin(way) })}
      />
      <SizeNumbers finishing={finishing} />
    </Fields>
  );
}

function SizeNumbers({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { settings, change } = finishing;
  const { size } = settings;
  const pixels = (label: string, value: number, onChange: (value: number) => void) => (
    <NumberBox
      label={label}
      value={value}
      min={1}
      max={LONGEST}
      step={1}
      unit="px"
      onChange={onChange}
    />
  );
  switch (size.by) {
    case "share":
      return (
        <NumberBox
          label="Times the sheet"
          value={size.share}
          min={0.01}
          max={64}
          step={0.01}
          digits={2}
          unit="×"
          onChange={(share) => change({ size: { by: "share", share } })}
        />
      );
    case "width":
      return pixels("Width", size.width, (width) => change({ size: { by: "width", width } }));
    case "longest":
      return pixels("Longer side, at most", size.longest, (longest) =>
        change({ size: { by: "longest", longest } }),
      );
    case "least":
      return pixels("Longer side, at least", size.least, (least) =>
        change({ size: { by: "least", least } }),
      );
    case "paper":
      return <PaperNumbers finishing={finishing} />;
  }
}

function PaperNumbers({ finishing }: { readonly finishing: Finishing }): ReactElement | null {
  const { settings, change, facts } = finishing;
  const unit = usePaperUnit();
  const { size } = settings;
  if (size.by !== "paper" || !facts) return null;
  const width = (size.width_mm ?? facts.trim_mm[0]) / MM[unit];
  const ppi = size.ppi ?? facts.ppi;
  return (
    <>
      <NumberBox
        label="Width on paper"
        value={Math.round(width * 100) / 100}
        min={0.1}
        max={MOST_MM / MM[unit]}
        step={0.1}
        digits={2}
        unit={unit}
        onChange={(next) => change({ size: { ...size, width_mm: next * MM[unit] } })}
      />
      <NumberBox
        label="Pixels an inch"
        value={Math.round(ppi)}
        min={1}
        max={MOST_PPI}
        step={1}
        onChange={(next) => change({ size: { ...size, ppi: next } })}
      />
    </>
  );
}
