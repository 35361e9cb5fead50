/** The part of the sheet that is saved, drawn on the picture. */

import { type PointerEvent, type ReactElement, useRef } from "react";
import styled from "styled-components";
import type { Finishing } from "@/features/finish/useFinishing";
import { wayOf } from "@/model/arrows";
import { cropMoved, type SheetPart } from "@/model/finishing";

const GRIPS = [
  { id: "top left", x: 0, y: 0 },
  { id: "top right", x: 1, y: 0 },
  { id: "bottom left", x: 0, y: 1 },
  { id: "bottom right", x: 1, y: 1 },
  { id: "left", x: 0, y: 0.5 },
  { id: "right", x: 1, y: 0.5 },
  { id: "top", x: 0.5, y: 0 },
  { id: "bottom", x: 0.5, y: 1 },
] as const;

const Veil = styled.div`
  position: absolute;
  inset: 0;
  overflow: hidden;
`;

const Part = styled.div`
  position: absolute;
  padding: 0;
  border: 1px solid #fbf9f3;
  background: none;
  box-shadow: 0 0 0 9999px rgb(30 27 23 / 55%);
  cursor: move;
  touch-action: none;
`;

const CORNER = 18;

/** Photo corners hold the part, and ticks its sides. */
const Grip = styled.button`
  position: absolute;
  padding: 0;
  border: 0;
  background: #fbf9f3;
  filter: drop-shadow(0 0 2px rgb(0 0 0 / 70%));
  transform: translate(-50%, -50%);
  touch-action: none;

  &[data-at="top"],
  &[data-at="bottom"] {
    width: 26px;
    height: 7px;
  }

  &[data-at="left"],
  &[data-at="right"] {
    width: 7px;
    height: 26px;
  }

  &[data-at*=" "] {
    width: ${CORNER}px;
    height: ${CORNER}px;
    transform: none;
  }

  &[data-at="top left"] {
    clip-path: polygon(0 0, 100% 0, 0 100%);
  }

  &[data-at="top right"] {
    margin-left: -${CORNER}px;
    clip-path: polygon(0 0, 100% 0, 100% 100%);
  }

  &[data-at="bottom left"] {
    margin-top: -${CORNER}px;
    clip-path: polygon(0 0, 100% 100%, 0 100%);
  }

  &[data-at="bottom right"] {
    margin: -${CORNER}px 0 0 -${CORNER}px;
    clip-path: polygon(100% 0, 100% 100%, 0 100%);
  }

  &:focus-visible {
    background: #ffd9cc;
  }
`;

const FAR = 10;

interface CropFrameProps {
  readonly finishing: Finishing;
  /** Shown pixels for one of the sheet's. */
  readonly scale: number;
}

export function CropFrame({ finishing, scale }: CropFrameProps): ReactElement | null {
  const { part, setPart, project } = finishing;
  const held = useRef<{ crop: SheetPart; x: number; y: number } | null>(null);
  if (part.what !== "crop") return null;
  const { crop } = part;
  const sheet = project.composite.canvas;
  const to = (next: SheetPart) => setPart({ what: "crop", crop: next });
  const hand = (grip: string) => ({
    onPointerDown: (event: PointerEvent) => {
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = { crop, x: event.clientX, y: event.clientY };
    },
    onPointerMove: (event: PointerEvent) => {
      if (!held.current) return;
      const { x, y, crop: before } = held.current;
      const by = { x: (event.clientX - x) / scale, y: (event.clientY - y) / scale };
      to(cropMoved(before, grip, by, sheet));
    },
    onPointerUp: () => {
      held.current = null;
    },
    onPointerCancel: () => {
      held.current = null;
    },
    onKeyDown: (event: React.KeyboardEvent) => {
      const way = wayOf(event.key);
      if (!way) return;
      event.preventDefault();
      event.stopPropagation();
      const far = event.shiftKey ? FAR : 1;
      to(cropMoved(crop, grip, { x: way[0] * far, y: way[1] * far }, sheet));
    },
  });
  const box = {
    left: crop.x * scale,
    top: crop.y * scale,
    width: crop.width * scale,
    height: crop.height * scale,
  };
  return (
    <>
      <Veil>
        <Part
          style={box}
          tabIndex={0}
          role="group"
          aria-label="The part that is saved; arrow keys move it"
          {...hand("all")}
        />
      </Veil>
      {GRIPS.map(({ id, x, y }) => (
        <Grip
          key={id}
          type="button"
          aria-label={`Its ${id}`}
          data-at={id}
          style={{ left: box.left + x * box.width, top: box.top + y * box.height }}
          {...hand(id)}
        />
      ))}
    </>
  );
}
