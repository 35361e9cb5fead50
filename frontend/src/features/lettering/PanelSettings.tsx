/** What lies behind the words, and follows them. */

import { PANEL } from "@generated/limits";
import type { ReactElement } from "react";
import type { WordsSetting } from "@/features/lettering/useWords";
import { FRESH_PANEL, type Panel } from "@/model/words";
import { Fields } from "@/ui/Fields";
import { type NumberSlider, NumberSliders } from "@/ui/NumberSliders";
import { Tick } from "@/ui/Tick";
import { LayerColor } from "@/work/LayerColor";

const SLIDERS: readonly NumberSlider[] = [
  { field: "padding", label: "Room", unit: "%", scale: 100, usual: 200 },
  { field: "roundness", label: "Rounded", unit: "%", scale: 100 },
  { field: "opacity", label: "Strength", unit: "%", scale: 100 },
  { field: "softness", label: "Soft edge", unit: "%", scale: 100, usual: 200 },
];

export function PanelSettings({ layer, words, isOff, preview, take }: WordsSetting): ReactElement {
  const { panel } = words;
  const changed = (changes: object) => ({
    panel: { ...(panel ?? FRESH_PANEL), ...changes } as Panel,
  });
  return (
    <Fields>
      <Tick
        isSelected={panel !== null}
        isDisabled={isOff}
        onChange={(isOn) => take({ panel: isOn ? FRESH_PANEL : null })}
      >
        A panel behind the words
      </Tick>
      {panel ? (
        <>
          <LayerColor
            {...{ layer, isOff }}
            of="Panel"
            value={panel.color}
            onPreview={(color) => preview(changed({ color }))}
            onTake={(color) => take(changed({ color }))}
          />
          <NumberSliders
            sliders={SLIDERS}
            values={panel as unknown as Readonly<Record<string, number>>}
            limits={PANEL}
            fresh={FRESH_PANEL as unknown as Readonly<Record<string, number>>}
            onPreview={(changes) => preview(changed(changes))}
            onTake={(changes) => take(changed(changes))}
          />
        </>
      ) : null}
    </Fields>
  );
}
