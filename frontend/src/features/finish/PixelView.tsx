/** The file pixel for pixel, as it is written; it is dragged along under the window. */

import { type ReactElement, useRef, useState } from "react";
import styled from "styled-components";
import type { Finishing } from "@/features/finish/useFinishing";
import { wayOf } from "@/model/arrows";
import type { FileFacts } from "@/model/finishing";
import { color } from "@/theme/tokens";
import { useLook } from "@/work/useLook";

const SLACK = 16;
const STEP = 64;

const Window = styled.div`
  position: absolute;
  inset: 0;
  overflow: hidden;
  cursor: grab;
  touch-action: none;

  img {
    position: absolute;
    max-width: none;
    image-rendering: pixelated;
    user-select: none;
  }
`;

const Note = styled.p`
  position: absolute;
  top: 12px;
  left: 14px;
  padding: 6px 12px;
  background: ${color.stageNote};
  color: ${color.stageNoteInk};
`;

interface PixelViewProps {
  readonly finishing: Finishing;
  readonly facts: FileFacts;
  readonly room: { readonly width: number; readonly height: number };
  readonly isMarked: boolean;
}

export function PixelView({ finishing, facts, room, isMarked }: PixelViewProps): ReactElement {
  const density = window.devicePixelRatio || 1;
  const width = Math.round(room.width * density);
  const height = Math.round(room.height * density);
  const middle = (file: number, shown: number) => Math.round((file - shown) / 2);
  const [at, setAt] = useState(() => ({
    x: middle(facts.width, width),
    y: middle(facts.height, height),
  }));
  const held = useRef<{ x: number; y: number } | null>(null);
  const left = within(at.x, facts.width, width);
  const top = within(at.y, facts.height, height);
  const { look, trouble } = useLook(finishing.project.id, finishing.request, {
    x: Math.max(left, 0),
    y: Math.max(top, 0),
    width: width + SLACK,
    height: height + SLACK,
    scale: 1,
    marks: isMarked ? "gamut" : "none",
  });
  const move = (x: number, y: number) => setAt({ x: left + x, y: top + y });
  return (
    <Window
      tabIndex={0}
      role="group"
      aria-label="The file pixel for pixel; drag it, or use the arrow keys"
      onKeyDown={(event) => {
        const way = wayOf(event.key);
        if (!way) return;
        event.preventDefault();
        move(way[0] * STEP, way[1] * STEP);
      }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = { x: event.clientX, y: event.clientY };
      }}
      onPointerMove={(event) => {
        if (!held.current) return;
        move(
          Math.round((held.current.x - event.clientX) * density),
          Math.round((held.current.y - event.clientY) * density),
        );
        held.current = { x: event.clientX, y: event.clientY };
      }}
      onPointerUp={() => {
        held.current = null;
      }}
      onPointerCancel={() => {
        held.current = null;
      }}
    >
      {look ? (
        <img
          src={look.url}
          alt={finishing.project.name}
          draggable={false}
          style={{
            left: (look.x - left) / density,
            top: (look.y - top) / density,
            zoom: 1 / density,
          }}
        />
      ) : null}
      <Note role={trouble ? "alert" : undefined}>
        {trouble ?? "Each pixel as it is saved; drag to look around"}
      </Note>
    </Window>
  );
}

/** Keep what is shown on the file; a small one lies in the middle. */
function within(at: number, file: number, shown: number): number {
  if (file <= shown) return Math.round((file - shown) / 2);
  return Math.min(Math.max(at, 0), file - shown);
}
