/** One layer of the pile: its picture, its sentence, and, when open, its facets. */

import { NAME_LAYER } from "@generated/limits";
import { memo, type ReactElement, useRef, useState } from "react";
import styled from "styled-components";
import { BlendFacet } from "@/features/blend/BlendFacet";
import { CutFacet } from "@/features/cut/CutFacet";
import { FadeFacet } from "@/features/fade/FadeFacet";
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
import { type Facet, facetFor } from "@/state/desk/selection";
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
          onPress={() => actions.open(open ? null : layer.id)}
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

function OpenFacets({ layer, summaries, onRename }: OpenFacetsProps): ReactElement {
  const facet = useDesk((desk) => facetFor(layer, desk.facet));
  const actions = useDesk((desk) => desk.actions);
  return (
    <>
      {isPlaced(layer) ? (
        <FacetRow
          name="Place"
          facet="place"
          summary={summaries.place}
          isOpen={facet === "place"}
          onOpen={() => actions.open(layer.id, "place")}
        >
          <PlaceFacet layer={layer} />
        </FacetRow>
      ) : null}
      {layer.kind === "color" || layer.kind === "gradient" ? (
        <FacetRow
          name="Wash"
          facet="wash"
          summary={summaries.wash}
          isOpen={facet === "wash"}
          onOpen={() => actions.open(layer.id, "wash")}
        >
          <WashFacet layer={layer} />
        </FacetRow>
      ) : null}
      <FacetRow
        name="Cut"
        facet="cut"
        summary={summaries.cut}
        isOpen={facet === "cut"}
        onOpen={() => actions.open(layer.id, "cut")}
      >
        <CutFacet layer={layer} />
      </FacetRow>
      <FacetRow
        name="Fade"
        facet="fade"
        summary={summaries.fade}
        isOpen={facet === "fade"}
        onOpen={() => actions.open(layer.id, "fade")}
      >
        <FadeFacet layer={layer} />
      </FacetRow>
      <FacetRow
        name="Blend"
        facet="blend"
        summary={summaries.blend}
        isOpen={facet === "blend"}
        onOpen={() => actions.open(layer.id, "blend")}
      >
        <BlendFacet layer={layer} />
      </FacetRow>
      {isToned(layer) ? (
        <FacetRow
          name="Tone"
          facet="tone"
          summary={summaries.tone}
          isOpen={facet === "tone"}
          onOpen={() => actions.open(layer.id, "tone")}
        >
          <ToneFacet layer={layer} />
        </FacetRow>
      ) : null}
      {isChanging(layer) ? null : (
        <FacetRow
          name="Shadow"
          facet="shadow"
          summary={summaries.shadow}
          isOpen={facet === "shadow"}
          onOpen={() => actions.open(layer.id, "shadow")}
        >
          <ShadowFacet layer={layer} />
        </FacetRow>
      )}
      <LayerActions layer={layer} onRename={onRename} />
    </>
  );
}

/** Open what a word speaks of: a facet, and the line of it that shapes the photo. */
function openAt({ id }: Layer, what: Touch): void {
  const { open, openLine } = useDesk.getState().actions;
  const line = shapingLine(what);
  if (line) {
    open(id, "place");
    openLine(line);
  } else open(id, isFacet(what) ? what : undefined);
}

const FACETS: ReadonlySet<Touch> = new Set([
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
