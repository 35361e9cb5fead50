/** A strip of alternatives: this very picture, rendered with each. */

import { type ReactElement, type ReactNode, useEffect, useState } from "react";
import { Header, type Key, ListBox, ListBoxSection } from "react-aria-components";
import styled from "styled-components";
import { TryTile } from "@/features/tries/TryTile";
import {
  type CanvasWindow,
  type SheetPlace,
  type TriesPicture,
  type TriesSheet,
  useTileSize,
  useTries,
} from "@/features/tries/useTries";
import type { Try, TryGroup } from "@/model/tries";
import { useDesk } from "@/state/desk/desk";
import { TILE_HEIGHTS, useSettings } from "@/state/settings";
import { color } from "@/theme/tokens";
import { DragEdge } from "@/ui/DragEdge";
import { useDeskActions } from "@/work/DeskContext";

const Strip = styled.section`
  overflow-x: auto;
  border-top: 1px solid ${color.rule};
  background: ${color.paper};
`;

/** One list: Tab enters and leaves it, arrow keys go through it. */
const List = styled(ListBox)`
  display: flex;
  gap: 18px;
  width: max-content;
  padding: 10px 16px 12px;
  outline: none;
`;

const Group = styled(ListBoxSection)`
  position: relative;
  display: flex;
  flex: none;
  gap: 6px;
  padding-top: 29px;
  font-size: 12.5px;
`;

const Title = styled(Header)`
  position: absolute;
  inset: 0 0 auto;
  overflow: hidden;
  white-space: nowrap;
  padding-bottom: 4px;
  border-bottom: 1px solid ${color.rule};
  color: ${color.softInk};
  font-weight: 650;
`;

const Note = styled.p`
  min-height: 25px;
  padding: 0 16px 8px;
  color: ${color.softInk};
  font-size: 12.5px;

  /* As high as tiles with their titles: the stage keeps its size when the first one comes. */
  &[data-alone] {
    display: grid;
    place-items: center;
  }
`;

/** What of a strip with a note lies above and beneath its tiles, in CSS pixels. */
const AROUND_TILES = 110;

/** Mark on the stage what the tiles show of it, while one points at them. */
function useWindowMark(sheet: TriesPicture | undefined): (isPointed: boolean) => void {
  const [isPointed, point] = useState(false);
  const { setTilesShow } = useDesk((state) => state.actions);
  useEffect(() => {
    if (!isPointed || !sheet) return;
    setTilesShow(sheet.shows);
    return () => setTilesShow(null);
  }, [isPointed, sheet, setTilesShow]);
  return point;
}

/** Return the sheet that a tile is on, and its place there. */
function sheetOf(sheets: readonly TriesSheet[], place: number): SheetPlace | null {
  const sheet = sheets.find(
    ({ first, picture }) => place >= first && place < first + picture.tiles,
  );
  return sheet ? { picture: sheet.picture, place: place - sheet.first } : null;
}

function idOf({ id, title }: Try): string {
  return id ?? title;
}

interface TriesProps {
  readonly label: string;
  readonly groups: readonly TryGroup[];
  /** What is still to come; empty where it has come: the note keeps its room. */
  readonly note?: string;
  /** What of the canvas the tiles show; where alternatives differ most if it is not said. */
  readonly window?: CanvasWindow;
  /** What stands before the tiles. */
  readonly children?: ReactNode;
}

export function Tries({ label, groups, note, window, children }: TriesProps): ReactElement {
  const desk = useDeskActions();
  const { setTried } = useDesk((state) => state.actions);
  const { setTileHeight } = useSettings.getState();
  const tries = groups.flatMap((group) => group.tries);
  const size = useTileSize(window);
  const sheets = useTries(
    tries.map(({ edit }) => edit),
    size.width,
    window,
  );
  const point = useWindowMark(sheets.at(0)?.picture);
  const take = (id: Key | undefined) => {
    setTried(null);
    const found = tries.find((one) => idOf(one) === id);
    if (found && !found.isChosen) desk.edit(found.edit);
  };
  return (
    <Strip
      aria-label={label}
      data-tries=""
      onPointerEnter={() => point(true)}
      onPointerLeave={() => {
        setTried(null);
        point(false);
      }}
    >
      <DragEdge
        label="Height of what can be tried"
        grows="below"
        size={size.tallest}
        bounds={TILE_HEIGHTS}
        onResize={setTileHeight}
      />
      {children}
      <List
        aria-label={label}
        orientation="horizontal"
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={tries.filter((one) => one.isChosen).map(idOf)}
        onSelectionChange={(chosen) => take([...chosen][0])}
        onFocus={() => point(true)}
        onBlur={() => {
          setTried(null);
          point(false);
        }}
      >
        {groups.map((group) => (
          // Its title has room, however few stand below it.
          <Group key={group.title} style={{ minWidth: `${group.title.length}ch` }}>
            <Title>{group.title}</Title>
            {group.tries.map((one) => (
              <TryTile
                key={idOf(one)}
                id={idOf(one)}
                title={one.title}
                sheet={sheetOf(sheets, tries.indexOf(one))}
                size={size}
                isChosen={one.isChosen}
                onTry={(on) => setTried(on && !one.isChosen ? one.edit : null)}
              />
            ))}
          </Group>
        ))}
      </List>
      {note !== undefined ? (
        <Note
          role="status"
          data-alone={tries.length === 0 || undefined}
          style={tries.length === 0 ? { height: size.height + AROUND_TILES } : {}}
        >
          {note}
        </Note>
      ) : null}
    </Strip>
  );
}
