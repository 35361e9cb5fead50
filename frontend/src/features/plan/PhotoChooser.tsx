/** Chooses a photo for a slot: of one's own files, of the shelf, or of the library. */

import { useQuery } from "@tanstack/react-query";
import { type ReactElement, type ReactNode, useState } from "react";
import { Dialog, DialogTrigger, FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { fetchLibrary, fetchShelf, libraryThumbnailUrl, thumbnailUrl } from "@/api/calls";
import { ACCEPTED } from "@/api/uploads";
import { isFound } from "@/model/searching";
import { color, font } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { FindField } from "@/ui/FindField";
import { Card } from "@/ui/LiveSelect";
import { lend, useBringIn } from "@/work/useBringIn";

const Body = styled(Dialog)`
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
  gap: 10px;
  width: 344px;
  height: min(440px, 62vh);
  padding: 10px;
  outline: none;
`;

const Tools = styled.div`
  display: flex;
  gap: 12px;
  align-items: center;
`;

const Scroll = styled.div`
  min-height: 0;
  overflow: auto;
`;

const Kind = styled.h3`
  margin: 6px 0 4px;
  color: ${color.softInk};
  font-family: ${font.control};
  font-size: 13px;
  font-weight: 650;
`;

const Tiles = styled.ul`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px;
`;

const Tile = styled.button`
  display: block;
  overflow: hidden;
  width: 100%;
  padding: 4px;
  border: 0;
  border-radius: 2px;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 12px;
  text-align: start;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;

  &:hover,
  &:focus-visible {
    background: ${color.well};
  }

  img {
    display: block;
    width: 100%;
    height: 64px;
    object-fit: cover;
  }
`;

const Bare = styled.p`
  color: ${color.softInk};
  font-size: 13px;
`;

/** A photo that was chosen. */
export interface Chosen {
  readonly id: string;
  readonly name: string;
}

interface PhotoChooserProps extends PhotoChoicesProps {
  /** What opens it: something that can be pressed. */
  readonly children: ReactNode;
}

/** Chooses photos, one after the other, until it is closed. */
export function PhotoChooser({ children, ...props }: PhotoChooserProps): ReactElement {
  return (
    <DialogTrigger>
      {children}
      <Card>
        <PhotoChoices {...props} />
      </Card>
    </DialogTrigger>
  );
}

interface PhotoChoicesProps {
  /** What the photo is for. */
  readonly what: string;
  readonly takesSeveral: boolean;
  onTake(picture: Chosen): void;
  /** Hear of a file that was chosen, once it is read in; the chooser is closed by then. */
  onBring(picture: Chosen): void;
}

/** What stands in the chooser. */
export function PhotoChoices(props: PhotoChoicesProps): ReactElement {
  const { what, takesSeveral, onTake, onBring } = props;
  const bringIn = useBringIn();
  return (
    <Body aria-label={`A photo for ${what}`}>
      {({ close }) => (
        <>
          <Kind>For {what}</Kind>
          <Choices
            onTake={onTake}
            brought={
              <FileTrigger
                allowsMultiple={takesSeveral}
                acceptedFileTypes={ACCEPTED.split(",")}
                onSelect={(files) => {
                  bringIn([...(files ?? [])], onBring);
                  close();
                }}
              >
                <PlainButton>From this computer…</PlainButton>
              </FileTrigger>
            }
          />
        </>
      )}
    </Body>
  );
}

interface ChoicesProps {
  readonly brought: ReactElement;
  onTake(picture: Chosen): void;
}

function Choices({ brought, onTake }: ChoicesProps): ReactElement {
  const [wanted, setWanted] = useState("");
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: fetchShelf });
  const library = useQuery({ queryKey: ["library"], queryFn: fetchLibrary });
  const own = (shelf.data ?? []).filter(
    ({ on_shelf, name }) => on_shelf && isFound(wanted, [name]),
  );
  const lent = (library.data ?? []).filter(({ title, kind, words }) =>
    isFound(wanted, [title, kind, words]),
  );
  return (
    <>
      <Tools>
        {brought}
        <FindField label="Find a photo" width={150} value={wanted} onChange={setWanted} />
      </Tools>
      <Scroll>
        <Kind>On your shelf</Kind>
        {own.length === 0 ? <Bare>{sayNone(shelf.isPending, wanted)}</Bare> : null}
        <Tiles>
          {own.map(({ id, name }) => (
            <li key={id}>
              <Tile type="button" onClick={() => onTake({ id, name })}>
                <img src={thumbnailUrl(id)} alt="" loading="lazy" />
                {name}
              </Tile>
            </li>
          ))}
        </Tiles>
        <Kind>Of the library</Kind>
        {lent.length === 0 ? <Bare>{sayNone(library.isPending, wanted)}</Bare> : null}
        <Tiles>
          {lent.map((picture) => (
            <li key={picture.name}>
              <Tile type="button" onClick={() => lend(picture, onTake)}>
                <img src={libraryThumbnailUrl(picture.name)} alt="" loading="lazy" />
                {picture.title}
              </Tile>
            </li>
          ))}
        </Tiles>
      </Scroll>
    </>
  );
}

function sayNone(isLoading: boolean, wanted: string): string {
  if (isLoading) return "Fetching…";
  return wanted ? `Nothing there is called “${wanted}”.` : "Nothing there yet.";
}
