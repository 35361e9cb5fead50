/** All layers under a point, fanned out as small cut-outs with their names. */

import { type KeyboardEvent, type ReactElement, useEffect, useRef } from "react";
import { ListBox, ListBoxItem } from "react-aria-components";
import styled from "styled-components";
import type { LayerThere } from "@/api/types";
import type { FanState } from "@/features/desk/useFan";
import type { Size } from "@/model/points";
import { useDesk } from "@/state/desk/desk";
import { color, font } from "@/theme/tokens";

const ROW = 62;
const WIDTH = 252;
const BESIDE = 18;
/** How far the middle of the fan bends away from its ends, in CSS pixels. */
const BEND = 22;

const Leaves = styled(ListBox<LayerThere>)`
  position: absolute;
  z-index: 5;
  overflow: auto;
  width: ${WIDTH + BEND}px;
  outline: none;
`;

const Leaf = styled(ListBoxItem)`
  display: flex;
  align-items: center;
  gap: 10px;
  width: ${WIDTH}px;
  height: ${ROW - 6}px;
  margin: 3px 0;
  padding: 4px 12px 4px 4px;
  border: 1px solid ${color.rule};
  background: ${color.sheet};
  box-shadow: 0 3px 10px rgb(0 0 0 / 22%);
  cursor: pointer;
  outline: none;

  &[data-hovered],
  &[data-focused] {
    border-color: ${color.live};
  }

  &[data-focus-visible] {
    outline: 2px solid ${color.live};
    outline-offset: 1px;
  }

  img {
    flex: none;
    width: 72px;
    height: 48px;
    background: #8b8b8b;
    object-fit: contain;
  }

  strong {
    overflow: hidden;
    font-family: ${font.name};
    font-size: 14.5px;
    text-overflow: ellipsis;
    white-space: nowrap;
  }

  small {
    display: block;
    color: ${color.softInk};
  }

  i {
    margin-left: auto;
    color: ${color.softInk};
    font-size: 12.5px;
    font-style: normal;
  }
`;

const Note = styled.p`
  position: absolute;
  z-index: 5;
  padding: 8px 12px;
  background: ${color.sheet};
`;

interface FanProps {
  readonly fan: FanState;
  onClose(): void;
}

export function Fan({ fan, onClose }: FanProps): ReactElement {
  const stage = useDesk((desk) => desk.stage);
  const place = useRef<HTMLDivElement>(null);
  useClosedFromOutside(place, onClose);
  const take = (id: string) => {
    useDesk.getState().actions.open(id);
    onClose();
  };
  const { layers } = fan;
  const heard = (event: KeyboardEvent) => {
    if (event.key === "Escape") onClose();
    const numbered = layers?.[Number(event.key) - 1];
    if (numbered) take(numbered.layer_id);
  };
  if (!layers || layers.length === 0) {
    const words = layers ? "Nothing lies here but the sheet." : "Looking what lies here…";
    return (
      <div ref={place}>
        <Note role="status" style={placeOf(fan, stage, 1)}>
          {words}
        </Note>
      </div>
    );
  }
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys of the list inside pass by here
    <div
      ref={place}
      onKeyDownCapture={heard}
      // What is chosen here is not meant for the stage.
      onKeyDown={(event) => event.stopPropagation()}
      onPointerDown={(event) => event.stopPropagation()}
    >
      <Leaves
        aria-label="Layers under this point, front to back"
        autoFocus="first"
        items={layers}
        onAction={(id) => take(String(id))}
        style={placeOf(fan, stage, layers.length)}
      >
        {(layer) => (
          <Leaf
            id={layer.layer_id}
            textValue={layer.name}
            style={{ translate: `${bend(layers.indexOf(layer), layers.length)}px 0` }}
            onPointerUp={() => take(layer.layer_id)}
          >
            <img src={layer.picture} alt="" draggable={false} />
            <span>
              <strong>{layer.name}</strong>
              {layer.within ? <small>in {layer.within}</small> : null}
            </span>
            <i>{numberOf(layers.indexOf(layer))}</i>
          </Leaf>
        )}
      </Leaves>
    </div>
  );
}

const MOST_NUMBERED = 9;

/** Return the key that takes a leaf; the first nine have one. */
function numberOf(place: number): string {
  return place < MOST_NUMBERED ? String(place + 1) : "";
}

/** Return where the fan lies: beside the point, and within the stage. */
function placeOf({ at }: FanState, stage: Size, count: number) {
  const height = Math.min(count * ROW, stage.height - 16);
  const fitsRight = at.x + BESIDE + WIDTH + BEND < stage.width;
  const left = fitsRight ? at.x + BESIDE : Math.max(8, at.x - BESIDE - WIDTH - BEND);
  const top = Math.min(Math.max(8, at.y - height / 2), Math.max(8, stage.height - height - 8));
  return { left, top, maxHeight: height };
}

/** Return how far a leaf is bent aside: the middle ones most. */
function bend(place: number, count: number): number {
  if (count < 2) return 0;
  const share = (2 * place) / (count - 1) - 1;
  return BEND * (1 - share * share);
}

function useClosedFromOutside(
  place: { readonly current: HTMLElement | null },
  onClose: () => void,
): void {
  useEffect(() => {
    const onPress = (event: Event) => {
      if (event.target instanceof Node && place.current?.contains(event.target)) return;
      onClose();
    };
    window.addEventListener("pointerdown", onPress, true);
    window.addEventListener("blur", onClose);
    return () => {
      window.removeEventListener("pointerdown", onPress, true);
      window.removeEventListener("blur", onClose);
    };
  }, [place, onClose]);
}
