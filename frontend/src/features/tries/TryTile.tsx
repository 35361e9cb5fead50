/** One alternative of the try strip. */

import { type ReactElement, useEffect, useRef } from "react";
import styled from "styled-components";
import { drawFrame } from "@/api/frames";
import type { TriesSheet } from "@/features/tries/useTries";
import { color } from "@/theme/tokens";

const Tile = styled.button`
  display: grid;
  justify-items: center;
  gap: 3px;
  min-width: 62px;
  padding: 4px;
  border: 2px solid transparent;
  border-radius: 2px;
  background: none;
  font-size: 12.5px;
  cursor: pointer;

  &:hover {
    background: ${color.well};
  }

  &[aria-pressed="true"] {
    border-color: ${color.on};
    color: ${color.on};
    font-weight: 650;
  }
`;

const Picture = styled.canvas`
  display: block;
  background: ${color.well};
`;

interface TryTileProps {
  readonly title: string;
  readonly sheet: TriesSheet | null;
  readonly place: number;
  readonly isChosen: boolean;
  onTry(on: boolean): void;
  onTake(): void;
}

export function TryTile(props: TryTileProps): ReactElement {
  const { title, sheet, place, isChosen, onTry, onTake } = props;
  const picture = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (sheet && picture.current) drawTile(picture.current, sheet, place);
  }, [sheet, place]);
  return (
    <Tile
      type="button"
      aria-pressed={isChosen}
      onPointerEnter={() => onTry(true)}
      onPointerLeave={() => onTry(false)}
      onFocus={() => onTry(true)}
      onBlur={() => onTry(false)}
      onClick={onTake}
    >
      <Picture
        ref={picture}
        aria-hidden="true"
        data-filled={sheet !== null}
        style={{ width: sheet?.width ?? 80, height: sheet?.height ?? 100 }}
      />
      {title}
    </Tile>
  );
}

function drawTile(picture: HTMLCanvasElement, sheet: TriesSheet, place: number): void {
  const { frame, tileHeight } = sheet;
  const width = frame.color.width;
  picture.width = width;
  picture.height = tileHeight;
  const context = picture.getContext("2d");
  if (!context) return;
  context.fillStyle = "#ffffff";
  context.fillRect(0, 0, width, tileHeight);
  const from = { x: 0, y: place * tileHeight, width, height: tileHeight };
  drawFrame(context, frame, from, { x: 0, y: 0, width, height: tileHeight });
}
