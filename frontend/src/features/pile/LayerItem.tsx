/** One layer of the pile: its picture, its sentence, and, when open, its facets. */

import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { thumbnailUrl } from "@/api/calls";
import { toggleLocked, toggleShown } from "@/features/desk/commands";
import { useDeskActions } from "@/features/desk/DeskContext";
import { BlendFacet } from "@/features/pile/BlendFacet";
import { FacetRow } from "@/features/pile/FacetRow";
import { LayerActions } from "@/features/pile/LayerActions";
import { PileHandle, usePileDrag } from "@/features/pile/PileDrag";
import { PlaceFacet } from "@/features/pile/PlaceFacet";
import { Sentence, type Touch } from "@/features/pile/Sentence";
import { useSentence } from "@/features/pile/useSentence";
import type { Layer } from "@/model/composite";
import { useDesk } from "@/state/desk";
import { color } from "@/theme/tokens";
import { NameField } from "@/ui/NameField";
import { useShownWhenOpen } from "@/ui/useShownWhenOpen";

const Item = styled.li`
  position: relative;
  border-bottom: 1px solid ${color.rule};

  &[data-open="true"] {
    border-left: 4px solid ${color.live};
    background: ${color.sheet};
  }

  &[data-gap-before="true"]::before,
  &[data-gap-after="true"]::after {
    content: "";
    position: absolute;
    right: 0;
    left: 0;
    z-index: 1;
    height: 3px;
    background: ${color.on};
  }

  &[data-gap-before="true"]::before {
    top: -2px;
  }

  &[data-gap-after="true"]::after {
    bottom: -2px;
  }
`;

const Head = styled.div`
  display: flex;
  gap: 12px;
  padding: 10px 16px;

  [data-open="true"] > & {
    padding-left: 12px;
  }
`;

const Thumb = styled.button`
  flex: none;
  width: 52px;
  height: 52px;
  padding: 0;
  border: 0;
  background: ${color.well};
  cursor: pointer;

  img {
    display: block;
    width: 100%;
    height: 100%;
    object-fit: cover;
  }

  &[data-hidden="true"] img {
    opacity: 0.3;
  }
`;

interface LayerItemProps {
  readonly layer: Layer;
  readonly row: number;
}

export function LayerItem({ layer, row }: LayerItemProps): ReactElement {
  const open = useDesk((desk) => desk.openLayer === layer.id);
  const facet = useDesk((desk) => desk.facet);
  const actions = useDesk((desk) => desk.actions);
  const { count, gap } = usePileDrag();
  const [renaming, setRenaming] = useState(false);
  const desk = useDeskActions();
  const item = useShownWhenOpen<HTMLLIElement>(open && facet);
  const { parts, summaries } = useSentence(layer);

  const touch = (what: Touch) => {
    if (what === "shown") toggleShown(desk, layer);
    else if (what === "lock") toggleLocked(desk, layer);
    else actions.open(layer.id, what === "place" || what === "blend" ? what : undefined);
  };
  return (
    <Item
      ref={item}
      data-open={open}
      data-gap-before={gap === row}
      data-gap-after={gap === count && row === count - 1}
    >
      <Head>
        <PileHandle layer={layer} row={row} />
        <Thumb
          type="button"
          tabIndex={-1}
          aria-hidden="true"
          data-hidden={!layer.visible}
          onClick={() => actions.open(open ? null : layer.id)}
        >
          <img src={thumbnailUrl(layer.picture)} alt="" draggable={false} />
        </Thumb>
        {renaming ? (
          <NameField
            label={`Name of ${layer.name}`}
            name={layer.name}
            onName={(name) => desk.edit({ kind: "name_layer", layer_id: layer.id, name })}
            onLeave={() => setRenaming(false)}
          />
        ) : (
          <Sentence
            parts={parts}
            isOpen={open}
            onTouch={touch}
            onClose={() => actions.open(null)}
          />
        )}
      </Head>
      {open ? (
        <>
          <FacetRow
            name="Place"
            summary={summaries.place}
            isOpen={facet === "place"}
            onOpen={() => actions.open(layer.id, "place")}
          >
            <PlaceFacet layer={layer} />
          </FacetRow>
          <FacetRow
            name="Blend"
            summary={summaries.blend}
            isOpen={facet === "blend"}
            onOpen={() => actions.open(layer.id, "blend")}
          >
            <BlendFacet layer={layer} />
          </FacetRow>
          <LayerActions layer={layer} onRename={() => setRenaming(true)} />
        </>
      ) : null}
    </Item>
  );
}
