/** The try strip: this very picture, rendered with each alternative. */

import { useQuery } from "@tanstack/react-query";
import { type ReactElement, useEffect, useState } from "react";
import { Header, type Key, ListBox, ListBoxSection } from "react-aria-components";
import styled from "styled-components";
import { fetchModes } from "@/api/calls";
import { TryTile } from "@/features/tries/TryTile";
import { useCutTries } from "@/features/tries/useCutTries";
import { useMatches } from "@/features/tries/useMatches";
import { type TriesPicture, useTileSize, useTries } from "@/features/tries/useTries";
import {
  type ColorLayer,
  type Composite,
  isLocked,
  isToned,
  type Layer,
  layerById,
  type PhotoLayer,
  sheetOf,
  type TonedLayer,
} from "@/model/composite";
import { drawnKind, hasColours } from "@/model/drawing";
import { effectTries } from "@/model/effects";
import { fadeTries, openFadePlace } from "@/model/fades";
import { matchTries } from "@/model/matches";
import { type MattePart, openMatte } from "@/model/mattes";
import { isMending } from "@/model/mends";
import { brushPart } from "@/model/strokes";
import { openTonePlace } from "@/model/tones";
import { toneTries } from "@/model/toneTries";
import { colorTries, gradientTries, type Try, type TryGroup, tryMode } from "@/model/tries";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { type Facet, facetFor } from "@/state/desk/selection";
import { useComposite } from "@/state/project";
import { TILE_HEIGHTS, useSettings } from "@/state/settings";
import { color } from "@/theme/tokens";
import { DragEdge } from "@/ui/DragEdge";
import { useDeskActions } from "@/work/DeskContext";
import { useOfferedColors } from "@/work/useOfferedColors";

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

/** Show the strip while something of the open layer is chosen by eye. */
export function TryStrip(): ReactElement | null {
  const composite = useComposite();
  const facet = useDesk((desk) => desk.facet);
  const openLayer = useDesk((desk) => desk.openLayer);
  const line = useDesk((desk) => desk.line);
  const lookedAt = useDesk((desk) => desk.lookedAt);
  const layer = composite ? layerById(composite, openLayer) : undefined;
  if (!composite || !layer || isLocked(composite, layer.id) || lookedAt) return null;
  const Shown = STRIPS[facetFor(layer, facet)];
  return Shown ? <Shown composite={composite} layer={layer} line={line} /> : null;
}

interface StripProps {
  readonly composite: Composite;
  readonly layer: Layer;
  readonly line: string | null;
}

function FadeStrip({ composite, layer, line }: StripProps): ReactElement {
  const groups = fadeTries(layer, sheetOf(composite, layer.id), openFadePlace(layer, line));
  return <Tries label="Try each fade on this picture" groups={groups} />;
}

function WashStrip({ composite, layer }: StripProps): ReactElement | null {
  if (layer.kind === "color") return <ColorStrip layer={layer} />;
  if (layer.kind !== "gradient") return null;
  const groups = gradientTries(layer, composite.canvas);
  return <Tries label="Try each way to run on this picture" groups={groups} />;
}

function ModeStrip({ layer }: StripProps): ReactElement | null {
  const modes = useQuery({ queryKey: ["modes"], queryFn: fetchModes, staleTime: Infinity });
  if (!modes.data) return null;
  const groups = modes.data.map((group) => ({
    title: group.title,
    tries: group.modes.map(({ mode, title }) => ({
      title,
      edit: tryMode(layer, mode),
      isChosen: layer.blend === mode,
    })),
  }));
  return <Tries label="Try each blend mode on this picture" groups={groups} />;
}

function ToneStrip({ composite, layer, line }: StripProps): ReactElement | null {
  const place = isToned(layer) ? openTonePlace(layer, line) : null;
  if (!isToned(layer)) return null;
  if (place !== null && layer.tones[place]?.kind === "match") {
    return <MatchStrip composite={composite} layer={layer} place={place} />;
  }
  return (
    <Tries
      label="Try tones on this picture"
      groups={toneTries(layer, sheetOf(composite, layer.id))}
    />
  );
}

interface MatchStripProps {
  readonly composite: Composite;
  readonly layer: TonedLayer;
  readonly place: number;
}

function MatchStrip({ composite, layer, place }: MatchStripProps): ReactElement {
  const offers = useMatches(composite, layer, place);
  return (
    <Tries
      label="Try each way to match it"
      groups={matchTries(layer, place, offers ?? [])}
      note={offers ? "" : "Looking for matches…"}
    />
  );
}

function ShadowStrip({ composite, layer }: StripProps): ReactElement {
  return (
    <Tries
      label="Try shadows and outlines on this picture"
      groups={effectTries(layer, sheetOf(composite, layer.id))}
    />
  );
}

function ColorStrip({ layer }: { readonly layer: ColorLayer }): ReactElement {
  const groups = colorTries(layer, useOfferedColors(layer));
  return <Tries label="Try colours on this picture" groups={groups} />;
}

function CutStrip({ composite, layer, line }: StripProps): ReactElement | null {
  const isElsewhere =
    drawnKind(line) !== null || brushPart(layer, line) !== null || isMending(layer, line);
  if (!hasColours(layer) || isElsewhere) return null;
  const part = openMatte(layer, line);
  const isOther = (layer.mask?.parts.length ?? 0) > 0 && !part;
  return isOther ? null : <FoundTries composite={composite} layer={layer} part={part} />;
}

interface FoundTriesProps {
  readonly composite: Composite;
  readonly layer: PhotoLayer;
  readonly part: MattePart | null;
}

function FoundTries({ composite, layer, part }: FoundTriesProps): ReactElement {
  const { groups, waiting } = useCutTries(composite, layer, part);
  const isFirst = groups.every((group) => group.tries.length === 0);
  const ways = sayCount(waiting, isFirst ? "way" : "more way");
  const note = waiting > 0 ? `${ways} being found…` : "";
  return <Tries label="Try each way to take the background away" groups={groups} note={note} />;
}

/** Mark on the stage what the tiles show of it, while one points at them. */
function useWindowMark(sheet: TriesPicture | null): (isPointed: boolean) => void {
  const [isPointed, point] = useState(false);
  const { setTilesShow } = useDesk((state) => state.actions);
  useEffect(() => {
    if (!isPointed || !sheet) return;
    setTilesShow(sheet.shows);
    return () => setTilesShow(null);
  }, [isPointed, sheet, setTilesShow]);
  return point;
}

function idOf({ id, title }: Try): string {
  return id ?? title;
}

interface TriesProps {
  readonly label: string;
  readonly groups: readonly TryGroup[];
  /** What is still to come; empty where it has come: the note keeps its room. */
  readonly note?: string;
}

function Tries({ label, groups, note }: TriesProps): ReactElement {
  const desk = useDeskActions();
  const { setTried } = useDesk((state) => state.actions);
  const { setTileHeight } = useSettings.getState();
  const tries = groups.flatMap((group) => group.tries);
  const size = useTileSize();
  const sheet = useTries(
    tries.map(({ edit }) => edit),
    size.width,
  );
  const point = useWindowMark(sheet);
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
                sheet={sheet}
                size={size}
                place={tries.indexOf(one)}
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

const STRIPS: Partial<Record<Facet, (props: StripProps) => ReactElement | null>> = {
  blend: ModeStrip,
  fade: FadeStrip,
  cut: CutStrip,
  wash: WashStrip,
  tone: ToneStrip,
  shadow: ShadowStrip,
};
