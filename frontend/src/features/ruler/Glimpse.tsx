/** A small render of a moment of the history, under the ruler. */

import { type ReactElement, useEffect, useState } from "react";
import styled from "styled-components";
import { previewUrl } from "@/api/calls";
import type { Tick } from "@/api/types";
import { sayWhen } from "@/model/wording";
import { color, font } from "@/theme/tokens";
import { useDeskActions } from "@/work/DeskContext";

const WIDTH = 240;
/** While the pointer runs along, nothing is rendered. */
const RESTS_MS = 70;

const Card = styled.figure`
  position: absolute;
  top: 46px;
  z-index: 12;
  display: grid;
  gap: 6px;
  width: 208px;
  padding: 8px;
  border: 1px solid ${color.ruleStrong};
  background: ${color.sheet};
  box-shadow: 0 6px 20px rgb(0 0 0 / 18%);
  pointer-events: none;

  img,
  div {
    width: 100%;
    height: 140px;
    background: ${color.well};
    object-fit: contain;
  }

  figcaption {
    font-family: ${font.reading};
    font-size: 13.5px;
    overflow-wrap: anywhere;
  }

  small {
    color: ${color.softInk};
  }
`;

interface GlimpseProps {
  readonly tick: Tick;
  /** Its place on the ruler, as a share of that. */
  readonly left: string;
}

export function Glimpse({ tick, left }: GlimpseProps): ReactElement {
  const desk = useDeskActions();
  const rested = useRested(tick.id);
  return (
    <Card style={{ left, transform: `translateX(-${left})` }} aria-hidden="true">
      {rested === tick.id ? (
        <img src={previewUrl(desk.projectId, tick.id, WIDTH)} alt="" />
      ) : (
        <div />
      )}
      <figcaption>
        {tick.name ? <strong>{tick.name}: </strong> : null}
        {tick.label} <small>{sayWhen(tick.at)}</small>
      </figcaption>
    </Card>
  );
}

function useRested(id: string): string | null {
  const [rested, setRested] = useState<string | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => setRested(id), RESTS_MS);
    return () => clearTimeout(timer);
  }, [id]);
  return rested;
}
