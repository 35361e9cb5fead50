/** Mended places of a photo or a pile: the brush, and the places as lines. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { BrushSize } from "@/features/cut/BrushSettings";
import type { MendedLayer } from "@/model/composite";
import { isMending, MENDING, type Mend, mendLine, openMend } from "@/model/mends";
import { useDesk } from "@/state/desk/desk";
import { useMending } from "@/state/mending";
import { color, font } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { Fields } from "@/ui/Fields";
import { LiveWord } from "@/ui/LiveWord";
import { Tick } from "@/ui/Tick";
import { FacetWords } from "@/ui/Words";
import { useDeskActions } from "@/work/DeskContext";
import { useSentence } from "@/work/useSentence";

const Places = styled.ol`
  max-height: 190px;
  margin: 0;
  padding: 0;
  overflow: auto;
  border-top: 1px solid ${color.rule};
  border-bottom: 1px solid ${color.rule};
  font-family: ${font.reading};
  font-size: 15px;
  list-style: none;

  > li {
    padding: 4px 6px 4px 10px;
  }

  > li[data-open="true"] {
    background: ${color.well};
  }

  > li[data-off="true"] {
    color: ${color.softInk};
  }
`;

/** The slider's end; wider places can be typed. */
const USUAL_SIZE = 80;
const FIRST_SIZE = 18;

export function MendFacet({ layer }: { readonly layer: MendedLayer }): ReactElement {
  const { openLine } = useDesk((state) => state.actions);
  const mends = useDesk((desk) => isMending(layer, desk.line));
  const { size, set } = useMending();
  return (
    <>
      {mends ? (
        <>
          <FacetWords>
            Click a speck or go over a scratch: it is filled from what lies around it.{" "}
            <LiveWord onPress={() => openLine(null)}>That is all</LiveWord>.
          </FacetWords>
          <Fields>
            <BrushSize
              size={size}
              usual={USUAL_SIZE}
              fallback={FIRST_SIZE}
              onChange={(next) => set({ size: next })}
            />
          </Fields>
        </>
      ) : (
        <FacetWords>
          <LiveWord onPress={() => openLine(MENDING)}>Mend</LiveWord> specks, scratches and wires
          {layer.kind === "mending" ? " of everything beneath" : ""}
          {layer.mends.length > 0 ? ":" : "."}
        </FacetWords>
      )}
      {layer.mends.length > 0 ? <MendLines layer={layer} /> : null}
    </>
  );
}

function MendLines({ layer }: { readonly layer: MendedLayer }): ReactElement {
  const { mends: words } = useSentence(layer);
  const { openLine } = useDesk((state) => state.actions);
  const open = useDesk((desk) => openMend(layer, desk.line));
  const mend = open === null ? undefined : layer.mends[open];
  return (
    <>
      <Places aria-label={`Mended places of ${layer.name}`}>
        {layer.mends.map((one, place) => (
          <li key={one.id} data-open={place === open} data-off={!one.works}>
            {place + 1}.{" "}
            <LiveWord
              isExpanded={place === open}
              onPress={() => openLine(place === open ? MENDING : mendLine(one))}
            >
              {words[place] ?? "a place"}
            </LiveWord>
            {one.works ? "" : ". Off."}
          </li>
        ))}
      </Places>
      {mend ? <OpenMend layer={layer} mend={mend} /> : null}
    </>
  );
}

interface OpenMendProps {
  readonly layer: MendedLayer;
  readonly mend: Mend;
}

function OpenMend({ layer, mend }: OpenMendProps): ReactElement {
  const desk = useDeskActions();
  const { openLine } = useDesk((state) => state.actions);
  const one = { layer_id: layer.id, mend_id: mend.id } as const;
  return (
    <Fields>
      <Tick
        isSelected={mend.works}
        onChange={(works) => desk.edit({ kind: "switch_mend", ...one, works })}
      >
        Mended
      </Tick>
      <PlainButton
        onPress={() => {
          desk.edit({ kind: "remove_mend", ...one });
          openLine(MENDING);
        }}
      >
        Leave it as it was
      </PlainButton>
    </Fields>
  );
}
