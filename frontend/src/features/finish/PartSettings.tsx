/** Of what the file is: all, one layer, each, some, or a part of the sheet. */

import { EXPORT_REQUEST } from "@generated/limits";
import type { ReactElement } from "react";
import { CompareSettings } from "@/features/finish/CompareSettings";
import type { Finishing } from "@/features/finish/useFinishing";
import type { Layer } from "@/model/composite";
import { type Comparison, cropInMiddle, type FilePart, savedAlone, WHOLE } from "@/model/finishing";
import { Choice } from "@/ui/Choice";
import { Fields } from "@/ui/Fields";
import { LiveSelect } from "@/ui/LiveSelect";
import { Tick } from "@/ui/Tick";

type What = FilePart["what"];

const LAYERED: readonly What[] = ["whole", "chosen", "compare"];

const WAYS: readonly { readonly id: What; readonly label: string }[] = [
  { id: "whole", label: "The whole picture" },
  { id: "piece", label: "One layer alone" },
  { id: "apart", label: "Each layer by itself" },
  { id: "chosen", label: "Some layers" },
  { id: "crop", label: "A part of the sheet" },
  { id: "compare", label: "Before and after" },
];

const MOST_APART = EXPORT_REQUEST.apart.maxItems;

export function PartSettings({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { part, setPart, project, settings, openLayer } = finishing;
  const { canvas } = project.composite;
  const alone = savedAlone(project.composite);
  const shown = project.composite.layers.filter((layer) => layer.visible);
  const each = [...shown].reverse().filter((layer) => alone.includes(layer));
  const first = alone.find(({ id }) => id === openLayer) ?? alone[0];
  const begin: Readonly<Record<What, () => FilePart>> = {
    whole: () => WHOLE,
    piece: () => ({ what: "piece", layer: first?.id ?? "", trimmed: false }),
    apart: () => ({ what: "apart", layers: each.map(({ id }) => id) }),
    chosen: () => ({ what: "chosen", layers: shown.map(({ id }) => id) }),
    crop: () => ({ what: "crop", crop: cropInMiddle(canvas.width, canvas.height) }),
    compare: () => ({ what: "compare", compare: firstComparison(first?.id) }),
  };
  const isThere: Readonly<Record<What, boolean>> = {
    whole: true,
    piece: alone.length > 0,
    apart: each.length > 1 && each.length <= MOST_APART && settings.format !== "pdf",
    chosen: shown.length > 1,
    crop: true,
    compare: project.composite.layers.length > 0,
  };
  const choices = WAYS.filter(
    ({ id }) => isThere[id] && (settings.format !== "openraster" || LAYERED.includes(id)),
  );
  return (
    <Fields>
      <Choice<What>
        label="What is saved"
        value={part.what}
        choices={choices}
        onChange={(what) => setPart(begin[what]())}
      />
      {part.what === "compare" ? (
        <CompareSettings finishing={finishing} compare={part.compare} />
      ) : null}
      <PartNumbers part={part} alone={alone} layers={project.composite.layers} onPart={setPart} />
      {each.length > MOST_APART ? (
        <p>{`At most ${MOST_APART} layers can be saved each by itself; put some together.`}</p>
      ) : null}
    </Fields>
  );
}

interface PartNumbersProps {
  readonly part: FilePart;
  readonly alone: readonly Layer[];
  readonly layers: readonly Layer[];
  onPart(part: FilePart): void;
}

function PartNumbers({ part, alone, layers, onPart }: PartNumbersProps): ReactElement | null {
  switch (part.what) {
    case "piece":
      return (
        <>
          <p>
            <LiveSelect
              label="Which layer"
              value={part.layer}
              choices={alone.map(({ id, name }) => ({ id, label: name }))}
              onChange={(layer) => onPart({ ...part, layer })}
            />
            , with its cut, fades, tones and shadow, at full strength
          </p>
          <Tick isSelected={part.trimmed} onChange={(trimmed) => onPart({ ...part, trimmed })}>
            cut to what of it shows
          </Tick>
        </>
      );
    case "apart":
      return (
        <p>
          One ZIP with a picture of each layer on the whole sheet, all of one size: with its cut,
          but at full strength and without fades.
        </p>
      );
    case "chosen":
      return (
        <>
          {[...layers].reverse().map(({ id, name }) => (
            <Tick
              key={id}
              isSelected={part.layers.includes(id)}
              onChange={(isOn) => onPart({ ...part, layers: toggled(part.layers, id, isOn) })}
            >
              {name}
            </Tick>
          ))}
        </>
      );
    case "crop":
      return <p>Draw its corners on the picture, or move it; arrow keys nudge it.</p>;
    case "whole":
    case "compare":
      return null;
  }
}

function firstComparison(layer: string | undefined): Comparison {
  return {
    before: layer === undefined ? { of: "picture" } : { of: "without", layer },
    after: { of: "picture" },
    before_caption: "Before",
    after_caption: "After",
    made_as: "page",
  };
}

function toggled(layers: readonly string[], id: string, isOn: boolean): readonly string[] {
  const others = layers.filter((one) => one !== id);
  // With none there would be no picture.
  return isOn ? [...others, id] : others.length > 0 ? others : layers;
}
