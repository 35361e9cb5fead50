/** One alternative of the try strip. */

import { type ReactElement, useEffect, useRef } from "react";
import { ListBoxItem } from "react-aria-components";
import styled from "styled-components";
import { drawFrame } from "@/api/frames";
import type { SheetPlace } from "@/features/tries/useTries";
import type { Size } from "@/model/points";
import { color } from "@/theme/tokens";

const Tile = styled(ListBoxItem)`
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

  outline: none;

  &[data-hovered] {
    background: ${color.well};
  }

  &[data-focus-visible] {
    outline: 2px solid ${color.on};
    outline-offset: 1px;
  }

  &[data-selected] {
    border-color: ${color.on};
    color: ${color.on};
    font-weight: 650;
  }
`;

const Shown = styled.span`
  position: relative;
  display: block;
`;

/** Over the picture: a line more would change the size of the stage. */
const Alike = styled.span`
  position: absolute;
  inset: auto 0 0;
  padding: 1px 2px;
  background: ${color.sheet};
  color: ${color.ink};
  font-size: 11px;
  font-weight: 400;
  text-align: center;
`;

const Picture = styled.canvas`
  display: block;
  background: ${color.well};
`;

interface TryTileProps {
  readonly id: string;
  readonly title: string;
  readonly sheet: SheetPlace | null;
  readonly size: Size;
  readonly isChosen: boolean;
  onTry(on: boolean): void;
}

export function TryTile(props: TryTileProps): ReactElement {
  const { id, title, sheet, size, isChosen, onTry } = props;
  const isAlike = !isChosen && sheet?.picture.alike.has(sheet.place) === true;
  const picture = useRef<HTMLCanvasElement>(null);
  const [drawn, place] = [sheet?.picture, sheet?.place ?? 0];
  useEffect(() => {
    if (drawn && picture.current) drawTile(picture.current, drawn, place);
  }, [drawn, place]);
  return (
    <Tile
      id={id}
      textValue={isAlike ? `${title}, changes nothing` : title}
      onHoverStart={() => onTry(true)}
      onHoverEnd={() => onTry(false)}
      onFocus={() => onTry(true)}
    >
      <Shown>
        <Picture
          ref={picture}
          aria-hidden="true"
          data-filled={sheet !== null}
          style={{ width: size.width, height: size.height }}
        />
        {isAlike ? <Alike>changes nothing</Alike> : null}
      </Shown>
      {title}
    </Tile>
  );
}

function drawTile(picture: HTMLCanvasElement, sheet: SheetPlace["picture"], place: number): void {
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
