/** One layer of the pile: its picture, its sentence, and, when open, its facets. */

import { NAME_LAYER } from "@generated/limits";
import { memo, type ReactElement, useRef, useState } from "react";
import styled from "styled-components";
import { BlendFacet } from "@/features/blend/BlendFacet";
import { CutFacet } from "@/features/cut/CutFacet";
import { FadeFacet } from "@/features/fade/FadeFacet";
import { LetteringFacet } from "@/features/lettering/LetteringFacet";
import { FacetRow } from "@/features/pile/FacetRow";
import { LayerActions } from "@/features/pile/LayerActions";
import { LayerThumb } from "@/features/pile/LayerThumb";
import { useLayerDrag, useLayerDrop } from "@/features/pile/PileDrag";
import { PlaceFacet } from "@/features/place/PlaceFacet";
import { ShadowFacet } from "@/features/shadow/ShadowFacet";
import { ToneFacet } from "@/features/tone/ToneFacet";
import { WashFacet } from "@/features/wash/WashFacet";
import { isChanging, isPlaced, isToned, type Layer, pathTo } from "@/model/composite";
import { shapingLine } from "@/model/shaping";
import { useDesk } from "@/state/desk/desk";
import { type Facet, facetAtOpening, facetFor } from "@/state/desk/selection";
import { color } from "@/theme/tokens";
import { NameField } from "@/ui/NameField";
import { useShownWhenOpen } from "@/ui/useShownWhenOpen";
import { toggleLocked, toggleShown } from "@/work/commands";
import { useDeskActions } from "@/work/DeskContext";
import { Sentence, type Touch } from "@/work/Sentence";
import { useSentence } from "@/work/useSentence";

const Item = styled.li`
  position: relative;
  border-bottom: 1px solid ${color.rule};

  &[data-open="true"] {
    border-left: 4px solid ${color.live};
    background: ${color.sheet};
  }

  &[data-beside="over"]::before,
  &[data-beside="under"]::after {
    content: "";
    position: absolute;
    right: 0;
    left: 0;
    z-index: 1;
    height: 3px;
    background: ${color.on};
  }

  &[data-beside="inside"] {
    outline: 3px solid ${color.on};
    outline-offset: -3px;
  }

  &[data-beside="over"]::before {
    top: -2px;
  }

  &[data-beside="under"]::after {
    bottom: -2px;
  }
`;

const Head = styled.div`
  display: flex;
  gap: 12px;
  padding: 10px 16px;

  [data-open="true"] > & {
    align-items: center;
    padding: 6px 16px 6px 12px;
  }
`;

interface LayerItemProps {
  readonly layer: Layer;
}

const Members = styled.div`
  margin-left: 14px;
  border-top: 1px solid ${color.rule};
  border-left: 2px solid ${color.ruleStrong};
`;

/** Drawn anew where its own layer changes alone: there may be fifty. */
export const LayerItem = memo(function LayerItem({ layer }: LayerItemProps): ReactElement {
  const open = useDesk((desk) => desk.openLayer === layer.id);
  const openWithin = useDesk((desk) => pathTo([layer], desk.openLayer).length > 0);
  const facet = useDesk((desk) => facetFor(layer, desk.facet));
  const actions = useDesk((desk) => desk.actions);
  const [renaming, setRenaming] = useState(false);
  const desk = useDeskActions();
  const line = useDesk((desk) => (desk.openLayer === layer.id ? desk.line : null));
  const item = useShownWhenOpen<HTMLLIElement>(open && `${facet} ${line}`);
  const head = useRef<HTMLDivElement>(null);
  const { parts, head: named, summaries } = useSentence(layer);
  const { dragProps, handle } = useLayerDrag(layer, renaming);
  const { dropProps, beside, button } = useLayerDrop(layer, head);

  const touch = (what: Touch) => {
    if (what === "shown") toggleShown(desk, layer);
    else if (what === "lock") toggleLocked(desk, layer);
    else openAt(layer, what);
  };
  return (
    <Item ref={item} {...dropProps} data-open={open} data-beside={beside}>
      {button}
      <Head {...dragProps} ref={head} data-row="">
        {handle}
        <LayerThumb
          layer={layer}
          isSmall={open}
          onPress={() => actions.open(open ? null : layer.id, facetAtOpening(layer))}
        />
        {renaming ? (
          <NameField
            longest={NAME_LAYER.name.maxLength}
            label={`Name of ${layer.name}`}
            name={layer.name}
            onName={(name) => desk.edit({ kind: "name_layer", layer_id: layer.id, name })}
            onLeave={() => setRenaming(false)}
          />
        ) : (
          <Sentence
            parts={open ? named : parts}
            isOpen={open}
            onTouch={touch}
            onClose={() => actions.open(null)}
          />
        )}
      </Head>
      {open ? (
        <OpenFacets layer={layer} summaries={summaries} onRename={() => setRenaming(true)} />
      ) : null}
      {layer.kind === "group" && openWithin ? (
        <Members>
          <LayerList layers={layer.layers} label={`In ${layer.name}, front to back`} />
        </Members>
      ) : null}
    </Item>
  );
});

interface OpenFacetsProps {
  readonly layer: Layer;
  readonly summaries: Readonly<Record<Facet, string>>;
  onRename(): void;
}

/** What a layer's facets are, in the order of the work; null where it has none of a kind. */
const FACET_BODIES: readonly {
  readonly facet: Facet;
  readonly name: string;
  body(layer: Layer): ReactElement | null;
}[] = [
  {
    facet: "lettering",
    name: "Words",
    body: (layer) => (layer.kind === "words" ? <LetteringFacet layer={layer} /> : null),
  },
  {
    facet: "place",
    name: "Place",
    body: (layer) => (isPlaced(layer) ? <PlaceFacet layer={layer} /> : null),
  },
  {
    facet: "wash",
    name: "Wash",
    body: (layer) =>
      layer.kind === "color" || layer.kind === "gradient" ? <WashFacet layer={layer} /> : null,
  },
  { facet: "cut", name: "Cut", body: (layer) => <CutFacet layer={layer} /> },
  { facet: "fade", name: "Fade", body: (layer) => <FadeFacet layer={layer} /> },
  { facet: "blend", name: "Blend", body: (layer) => <BlendFacet layer={layer} /> },
  {
    facet: "tone",
    name: "Tone",
    body: (layer) => (isToned(layer) ? <ToneFacet layer={layer} /> : null),
  },
  {
    facet: "shadow",
    name: "Shadow",
    body: (layer) => (isChanging(layer) ? null : <ShadowFacet layer={layer} />),
  },
];

function OpenFacets({ layer, summaries, onRename }: OpenFacetsProps): ReactElement {
  const open = useDesk((desk) => facetFor(layer, desk.facet));
  const actions = useDesk((desk) => desk.actions);
  return (
    <>
      {FACET_BODIES.map(({ facet, name, body }) => {
        const inside = body(layer);
        return inside ? (
          <FacetRow
            key={facet}
            name={name}
            facet={facet}
            // Its own sentence stands there, with words that can be changed.
            summary={facet === "lettering" && open === facet ? "" : summaries[facet]}
            isOpen={facet === open}
            onOpen={() => actions.open(layer.id, facet)}
          >
            {inside}
          </FacetRow>
        ) : null;
      })}
      <LayerActions layer={layer} onRename={onRename} />
    </>
  );
}

/** Open what a word speaks of: a facet, and the line of it that shapes the photo. */
function openAt(layer: Layer, what: Touch): void {
  const { id } = layer;
  const { open, openLine } = useDesk.getState().actions;
  const line = shapingLine(what);
  if (line) {
    open(id, "place");
    openLine(line);
  } else open(id, isFacet(what) ? what : facetAtOpening(layer));
}

const FACETS: ReadonlySet<Touch> = new Set([
  "lettering",
  "wash",
  "place",
  "cut",
  "fade",
  "blend",
  "tone",
  "shadow",
]);

function isFacet(touch: Touch): touch is Facet {
  return FACETS.has(touch);
}

interface LayerListProps {
  readonly layers: readonly Layer[];
  readonly label: string;
}

/** Layers that lie in the same group, or in none, from front to back. */
export function LayerList({ layers, label }: LayerListProps): ReactElement {
  return (
    <ol aria-label={label}>
      {layers.toReversed().map((layer) => (
        <LayerItem key={layer.id} layer={layer} />
      ))}
    </ol>
  );
}
