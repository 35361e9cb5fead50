/** One picture of the shelf: laid on with a click, and what is known of it. */

import { PICTURE_CHANGE } from "@generated/limits";
import { type ReactElement, useEffect, useRef, useState } from "react";
import { Dialog, DialogTrigger } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { putOnShelf, renamePicture, thumbnailUrl } from "@/api/calls";
import type { Picture } from "@/api/types";
import { Tile } from "@/features/shelf/shelfParts";
import { sayWhen } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { useMessages } from "@/state/messages";
import { color, font } from "@/theme/tokens";
import { PlainButton, QuietButton } from "@/ui/Button";
import { Card } from "@/ui/LiveSelect";
import { NameField } from "@/ui/NameField";
import { layOn } from "@/work/commands";
import { useDeskActions } from "@/work/DeskContext";
import { carryPicture } from "@/work/dragging";

const Line = styled.div`
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  color: ${color.softInk};
  font-size: 11px;
  white-space: nowrap;

  button {
    min-width: 24px;
    min-height: 24px;
    padding: 2px;
  }
`;

const About = styled(Dialog)`
  display: grid;
  gap: 10px;
  width: 270px;
  padding: 12px;
  font-family: ${font.reading};
  outline: none;

  h3 {
    margin: 0;
    font-family: ${font.name};
    font-size: 15px;
    font-weight: 700;
    overflow-wrap: anywhere;
  }

  ul {
    overflow: auto;
    max-height: 140px;
    line-height: 26px;
  }
`;

const Row = styled.div`
  display: flex;
  gap: 8px;
  font-family: ${font.control};
`;

export function ShelfTile({ picture }: { readonly picture: Picture }): ReactElement {
  const desk = useDeskActions();
  const marked = useDesk((state) => state.marked.includes(picture.id));
  const tile = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (marked) tile.current?.scrollIntoView({ block: "nearest" });
  }, [marked]);
  const { name, width, height } = picture;
  return (
    <li>
      <Tile
        ref={tile}
        type="button"
        data-marked={marked}
        draggable
        title={`${name}, ${width} × ${height}`}
        aria-label={`Lay on ${name}, ${width} by ${height} pixels`}
        onDragStart={(event) => carryPicture(event.dataTransfer, picture)}
        onClick={() => layOn(desk, picture)}
      >
        <img src={thumbnailUrl(picture.id)} alt="" draggable={false} loading="lazy" />
        <span>{name}</span>
      </Tile>
      <Line>
        <span>{picture.on_shelf ? `${width} × ${height}` : "from the library"}</span>
        <DialogTrigger>
          <QuietButton aria-label={`About ${name}`}>About</QuietButton>
          <Card placement="top">
            <About aria-label={`About ${name}`}>
              {({ close }) => <Facts picture={picture} onLeave={close} />}
            </About>
          </Card>
        </DialogTrigger>
      </Line>
    </li>
  );
}

interface FactsProps {
  readonly picture: Picture;
  onLeave(): void;
}

function Facts({ picture, onLeave }: FactsProps): ReactElement {
  const { id, name, width, height, format, library, note, has_map, used_in } = picture;
  const [renaming, setRenaming] = useState(false);
  return (
    <>
      <h3>
        {renaming ? (
          <NameField
            longest={PICTURE_CHANGE.name.maxLength}
            label={`Name of ${name}`}
            name={name}
            onName={(next) => orWarn(renamePicture(id, next))}
            onLeave={() => setRenaming(false)}
          />
        ) : (
          name
        )}
      </h3>
      <p>
        {width} × {height} pixels, {format},{" "}
        {library ? "from the library" : `brought in ${sayWhen(picture.created_at)}`}
        {has_map ? ", with its place on a map" : ""}.{note ? ` ${note}` : ""}
      </p>
      {used_in.length > 0 ? (
        <div>
          Used in
          <ul aria-label="Used in">
            {used_in.map((use) => (
              <li key={use.id}>
                <Link to={`/desk/${use.id}`}>{use.name}</Link>
              </li>
            ))}
          </ul>
        </div>
      ) : (
        <p>No picture of yours shows it as it stands.</p>
      )}
      <Row>
        {library ? null : <PlainButton onPress={() => setRenaming(true)}>Rename</PlainButton>}
        {picture.on_shelf ? (
          <QuietButton
            onPress={() => {
              onLeave();
              takeOff(picture);
            }}
          >
            Take off the shelf
          </QuietButton>
        ) : null}
      </Row>
    </>
  );
}

function orWarn(work: Promise<void>, done?: () => void): void {
  work.then(done, (error: Error) => useMessages.getState().warn(error.message));
}

/** What pictures it is used in keep it all the same. */
function takeOff({ id, name }: Picture): void {
  const back = { label: "Put it back", run: () => orWarn(putOnShelf(id, true)) };
  const say = () => useMessages.getState().say(`${name} is off the shelf.`, back);
  orWarn(putOnShelf(id, false), say);
}
