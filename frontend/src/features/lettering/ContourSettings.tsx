/** The line along the edges of the letters. */

import { CONTOUR } from "@generated/limits";
import type { ReactElement } from "react";
import type { WordsSetting } from "@/features/lettering/useWords";
import { type Contour, FRESH_CONTOUR } from "@/model/words";
import { Choice } from "@/ui/Choice";
import { Fields } from "@/ui/Fields";
import { LiveSelect } from "@/ui/LiveSelect";
import { type NumberSlider, NumberSliders } from "@/ui/NumberSliders";
import { FacetWords } from "@/ui/Words";
import { LayerColor } from "@/work/LayerColor";

const SIDES = [
  { id: "none", label: "no outline" },
  { id: "outside", label: "an outline round them" },
  { id: "middle", label: "an outline on their edge" },
  { id: "inside", label: "an outline inside them" },
] as const;

const JOINS = [
  { id: "round", label: "Round corners" },
  { id: "mitre", label: "Sharp corners" },
] as const;

const SLIDERS: readonly NumberSlider[] = [
  { field: "width", label: "Width", unit: "%", scale: 100, step: 0.5, usual: 30 },
  { field: "opacity", label: "Strength", unit: "%", scale: 100 },
];
/** The service takes none without any width. */
const LIMITS = { ...CONTOUR, width: { minimum: 0.005, maximum: CONTOUR.width.maximum } };

export function ContourSettings({
  layer,
  words,
  isOff,
  preview,
  take,
}: WordsSetting): ReactElement {
  const { contour } = words;
  const changed = (changes: object) => ({
    contour: { ...(contour ?? FRESH_CONTOUR), ...changes } as Contour,
  });
  return (
    <Fields>
      <FacetWords>
        Letters have{" "}
        <LiveSelect
          label="Where their outline lies"
          value={contour?.side ?? "none"}
          choices={SIDES}
          onChange={(side) => take(side === "none" ? { contour: null } : changed({ side }))}
        />
        .
      </FacetWords>
      {contour ? (
        <>
          <LayerColor
            {...{ layer, isOff }}
            of="Outline"
            value={contour.color}
            onPreview={(color) => preview(changed({ color }))}
            onTake={(color) => take(changed({ color }))}
          />
          <NumberSliders
            sliders={SLIDERS}
            values={contour as unknown as Readonly<Record<string, number>>}
            limits={LIMITS}
            fresh={FRESH_CONTOUR as unknown as Readonly<Record<string, number>>}
            onPreview={(changes) => preview(changed(changes))}
            onTake={(changes) => take(changed(changes))}
          />
          <Choice
            label="Corners of the outline"
            value={contour.join}
            choices={JOINS}
            isDisabled={isOff}
            onChange={(join) => take(changed({ join }))}
          />
        </>
      ) : null}
    </Fields>
  );
}
