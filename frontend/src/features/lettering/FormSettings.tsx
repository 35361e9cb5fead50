/** Along what lines run. */

import { ARC, CIRCLE, WAVE } from "@generated/limits";
import type { ReactElement } from "react";
import type { WordsSetting } from "@/features/lettering/useWords";
import { FORMS, type Form, freshForm } from "@/model/words";
import { Fields } from "@/ui/Fields";
import { LiveSelect } from "@/ui/LiveSelect";
import { type NumberSlider, NumberSliders } from "@/ui/NumberSliders";
import { Tick } from "@/ui/Tick";
import { FacetWords } from "@/ui/Words";

const SLIDERS: { readonly [Kind in Form["kind"]]: readonly NumberSlider[] } = {
  straight: [],
  fitted: [],
  arc: [{ field: "angle", label: "Bends by", unit: "°", scale: 1 }],
  circle: [
    { field: "radius", label: "Radius", unit: "px", scale: 1, usual: 2000 },
    { field: "start", label: "Middle at", unit: "°", scale: 1 },
  ],
  wave: [
    { field: "height", label: "Height", unit: "%", scale: 100, usual: 100 },
    { field: "length", label: "Length", unit: "em", scale: 1, step: 0.5, usual: 30 },
    { field: "shift", label: "Shifted", unit: "%", scale: 100 },
  ],
};

const LIMITS = { straight: {}, fitted: {}, arc: ARC, circle: CIRCLE, wave: WAVE } as const;

export function FormSettings({ layer, words, preview, take }: WordsSetting): ReactElement {
  const { form } = words.setting;
  const changed = (changes: object) => ({ setting: { form: { ...form, ...changes } as Form } });
  const numbers = (of: Form) => of as unknown as Readonly<Record<string, number>>;
  return (
    <Fields>
      <FacetWords>
        Lines are set{" "}
        <LiveSelect
          label="Along what lines run"
          value={form.kind}
          choices={FORMS}
          onChange={(kind) => take({ setting: { form: freshForm(kind as Form["kind"], layer) } })}
        />
        .
      </FacetWords>
      <NumberSliders
        sliders={SLIDERS[form.kind]}
        values={numbers(form)}
        limits={LIMITS[form.kind]}
        fresh={numbers(freshForm(form.kind, layer))}
        onPreview={(changes) => preview(changed(changes))}
        onTake={(changes) => take(changed(changes))}
      />
      {form.kind === "circle" ? (
        <Tick
          isSelected={form.inside}
          onChange={(inside) => take(changed({ inside, start: inside ? 180 : 0 }))}
        >
          On the inside
        </Tick>
      ) : null}
    </Fields>
  );
}
