/** The shelf: every picture brought in, from any project, and those on their way. */

import { useQuery } from "@tanstack/react-query";
import { type ReactElement, useEffect, useRef, useState } from "react";
import { FileTrigger, Input, SearchField } from "react-aria-components";
import styled from "styled-components";
import { fetchShelf, thumbnailUrl } from "@/api/calls";
import type { Picture } from "@/api/types";
import { ACCEPTED } from "@/api/uploads";
import { PrepareBackdrops } from "@/features/cut/ManyCuts";
import { layOn } from "@/features/desk/commands";
import { useDeskActions } from "@/features/desk/DeskContext";
import { Arrivals } from "@/features/shelf/Arrivals";
import { carryPicture } from "@/features/shelf/dragging";
import { useBringToShelf } from "@/features/shelf/useBringToShelf";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk";
import { useNotices } from "@/state/notices";
import { countWaiting, useProject } from "@/state/project";
import { color } from "@/theme/tokens";
import { PlainButton, QuietButton } from "@/ui/Button";

const Drawer = styled.section`
  border-top: 1px solid ${color.rule};
  background: ${color.paper};
`;

const Bar = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
  height: 36px;
  padding: 0 16px 0 10px;
`;

const Few = styled.div`
  display: flex;
  flex: 1;
  gap: 8px;
  overflow: hidden;
`;

const Small = styled.button`
  flex: none;
  width: 34px;
  height: 24px;
  padding: 0;
  border: 0;
  cursor: pointer;

  img {
    display: block;
    width: 100%;
    height: 100%;
    object-fit: cover;
  }
`;

const Open = styled.div`
  display: grid;
  gap: 10px;
  max-height: 230px;
  overflow: auto;
  padding: 4px 16px 14px;
`;

const Tools = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
`;

const Find = styled(Input)`
  width: 240px;
  padding: 5px 8px;
  border: 0;
  border-bottom: 1px solid ${color.ink};
  background: none;
  outline: none;

  &[data-focused] {
    border-bottom-color: ${color.on};
    box-shadow: 0 1px 0 ${color.on};
  }
`;

const Grid = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
  gap: 10px;
`;

const Print = styled.button`
  display: grid;
  gap: 4px;
  width: 100%;
  padding: 0;
  border: 0;
  background: none;
  font-size: 12.5px;
  text-align: left;
  scroll-margin: 10px;
  cursor: grab;

  &[data-marked="true"] {
    outline: 3px solid ${color.on};
    outline-offset: 2px;
  }

  img {
    width: 100%;
    height: 76px;
    background: ${color.well};
    object-fit: cover;
  }

  span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }

  &:hover img {
    outline: 2px solid ${color.on};
  }
`;

const Soft = styled.span`
  color: ${color.softInk};
`;

export function Shelf(): ReactElement {
  const open = useDesk((desk) => desk.shelfOpen);
  const { setShelf } = useDesk((desk) => desk.actions);
  const desk = useDeskActions();
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: fetchShelf });
  const pictures = shelf.data ?? [];
  return (
    <Drawer aria-label="The shelf">
      <Arrivals />
      <Bar>
        <QuietButton aria-expanded={open} onPress={() => setShelf(!open)}>
          {open ? "▾" : "▴"} Shelf, {sayCount(pictures.length, "picture")}
        </QuietButton>
        <Few>
          {open
            ? null
            : pictures.slice(0, 12).map((picture) => (
                <Small
                  key={picture.id}
                  type="button"
                  aria-label={`Lay on ${picture.name}`}
                  title={`Lay on ${picture.name}`}
                  draggable
                  onDragStart={(event) => carryPicture(event.dataTransfer, picture)}
                  onClick={() => layOn(desk, picture)}
                >
                  <img src={thumbnailUrl(picture.id)} alt="" draggable={false} />
                </Small>
              ))}
        </Few>
        <SavedNote />
      </Bar>
      {open ? <OpenShelf pictures={pictures} isLoading={shelf.isPending} /> : null}
    </Drawer>
  );
}

interface OpenShelfProps {
  readonly pictures: readonly Picture[];
  readonly isLoading: boolean;
}

function OpenShelf({ pictures, isLoading }: OpenShelfProps): ReactElement {
  const [wanted, setWanted] = useState("");
  const found = pictures.filter((picture) =>
    picture.name.toLowerCase().includes(wanted.trim().toLowerCase()),
  );
  return (
    <Open>
      <Tools>
        <BringInButton />
        <SearchField aria-label="Find a picture" value={wanted} onChange={setWanted}>
          <Find placeholder="Find a picture…" />
        </SearchField>
        <Soft>Click one to lay it on, or drag it to its place.</Soft>
        <PrepareBackdrops pictures={pictures} />
      </Tools>
      {isLoading ? <Soft>Looking through the shelf…</Soft> : null}
      {!isLoading && found.length === 0 ? (
        <Soft>
          {pictures.length === 0
            ? "The shelf is empty. Bring pictures in, or drop them anywhere on this window."
            : `Nothing on the shelf is called “${wanted}”.`}
        </Soft>
      ) : null}
      <Grid>
        {found.map((picture) => (
          <ShelfPrint key={picture.id} picture={picture} />
        ))}
      </Grid>
    </Open>
  );
}

function ShelfPrint({ picture }: { readonly picture: Picture }): ReactElement {
  const desk = useDeskActions();
  const marked = useDesk((state) => state.marked.includes(picture.id));
  const print = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (marked) print.current?.scrollIntoView({ block: "nearest" });
  }, [marked]);
  return (
    <li>
      <Print
        ref={print}
        type="button"
        data-marked={marked}
        draggable
        title={`${picture.name}, ${picture.width} × ${picture.height}`}
        aria-label={`Lay on ${picture.name}, ${picture.width} by ${picture.height} pixels`}
        onDragStart={(event) => carryPicture(event.dataTransfer, picture)}
        onClick={() => layOn(desk, picture)}
      >
        <img src={thumbnailUrl(picture.id)} alt="" draggable={false} loading="lazy" />
        <span>{picture.name}</span>
      </Print>
    </li>
  );
}

function BringInButton(): ReactElement {
  const bringIn = useBringToShelf(useDeskActions());
  return (
    <FileTrigger
      allowsMultiple
      acceptedFileTypes={ACCEPTED.split(",")}
      onSelect={(files) => bringIn([...(files ?? [])])}
    >
      <PlainButton>Bring pictures in…</PlainButton>
    </FileTrigger>
  );
}

function SavedNote(): ReactElement {
  const waiting = useProject(countWaiting);
  const held = useProject((project) => project.held);
  const parked = useProject((project) => project.parked);
  const listening = useNotices((notices) => notices.listening);
  const count = waiting > 0 ? `${sayCount(waiting, "change")} waiting here` : "nothing is lost";
  if (parked) return <strong role="status">Not saved, {count}</strong>;
  if (held) return <strong role="status">{`${held.replace(/\.$/, "")}, ${count}`}</strong>;
  if (!listening) return <strong role="status">Connection lost, {count}</strong>;
  return <Soft role="status">{waiting > 0 ? "Saving…" : "All saved"}</Soft>;
}
