/** The open shelf: what was brought in, in sets, or the library; both are searched. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactElement, useEffect, useState } from "react";
import { FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { fetchLibrary } from "@/api/calls";
import type { LibraryPicture, Picture } from "@/api/types";
import { ACCEPTED } from "@/api/uploads";
import { LibraryTile } from "@/features/shelf/LibraryTile";
import { ShelfTile } from "@/features/shelf/ShelfTile";
import { Grid, Soft, TileSet } from "@/features/shelf/shelfParts";
import { isFound } from "@/model/searching";
import { foundOn, type PictureSet, type Sorting, setsOf } from "@/model/shelving";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { color, font } from "@/theme/tokens";
import { PlainButton, QuietButton } from "@/ui/Button";
import { FindField } from "@/ui/FindField";
import { LiveSelect } from "@/ui/LiveSelect";
import { PrepareBackdrops } from "@/work/cutting/ManyCuts";
import { useDeskActions } from "@/work/DeskContext";
import { useBringToShelf } from "@/work/useBringToShelf";

const Open = styled.div`
  display: grid;
  gap: 12px;
  max-height: 264px;
  overflow: auto;
  padding: 4px 16px 14px;
`;

const Tools = styled.div`
  position: sticky;
  top: -4px;
  z-index: 1;
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 4px 0;
  background: ${color.paper};
`;

const Sentence = styled.p`
  font-family: ${font.reading};
  font-size: 15px;
`;

const SHOWN = [
  { id: "day", label: "my pictures, by day" },
  { id: "project", label: "my pictures, by where they are used" },
  { id: "library", label: "the library" },
] as const;

type Shown = Sorting | "library";

interface OpenShelfProps {
  readonly pictures: readonly Picture[];
  readonly isLoading: boolean;
  /** Why the pictures could not be fetched. */
  readonly trouble: string | null;
}

export function OpenShelf({ pictures, isLoading, trouble }: OpenShelfProps): ReactElement {
  const [wanted, setWanted] = useState("");
  const [shown, setShown] = useState<Shown>("day");
  const marked = useDesk((desk) => desk.marked);
  useEffect(() => {
    if (marked.length === 0) return;
    // What is pointed out must be in sight, whatever was looked for before.
    setWanted("");
    setShown((now) => (now === "library" ? "day" : now));
  }, [marked]);
  const library = useQuery({ queryKey: ["library"], queryFn: fetchLibrary });
  const found = foundOn(pictures, wanted);
  const lent = (library.data ?? []).filter(({ title, kind, words }) =>
    isFound(wanted, [title, kind, words]),
  );
  const elsewhere =
    shown === "library" ? found.filter(({ on_shelf }) => on_shelf).length : lent.length;
  return (
    <Open>
      <Tools>
        <BringInButton />
        <FindField label="Find a picture" width={200} value={wanted} onChange={setWanted} />
        <Sentence>
          Showing{" "}
          <LiveSelect
            label="What the shelf shows"
            value={shown}
            choices={SHOWN}
            onChange={(id) => setShown(id as Shown)}
          />
          .
        </Sentence>
        {wanted.trim() && elsewhere > 0 ? (
          <QuietButton onPress={() => setShown(shown === "library" ? "day" : "library")}>
            {elsewhere} more {shown === "library" ? "on the shelf" : "in the library"}
          </QuietButton>
        ) : null}
        {shown === "library" ? null : (
          <PrepareBackdrops pictures={pictures.filter(({ on_shelf }) => on_shelf)} />
        )}
      </Tools>
      {shown === "library" ? (
        <LibrarySets
          pictures={lent}
          isLoading={library.isPending}
          trouble={library.error?.message ?? null}
          wanted={wanted}
        />
      ) : (
        <ShelfSets
          found={found}
          sorting={shown}
          isLoading={isLoading}
          trouble={trouble}
          isBare={!pictures.some(({ on_shelf }) => on_shelf)}
          wanted={wanted}
        />
      )}
    </Open>
  );
}

interface LibrarySetsProps {
  readonly pictures: readonly LibraryPicture[];
  readonly isLoading: boolean;
  readonly trouble: string | null;
  readonly wanted: string;
}

function LibrarySets(props: LibrarySetsProps): ReactElement {
  const { pictures, isLoading, trouble, wanted } = props;
  if (isLoading) return <Soft>Fetching the library…</Soft>;
  if (trouble) return <Trouble reason={trouble} of="library" />;
  if (pictures.length === 0) {
    return (
      <Soft>
        {wanted.trim()
          ? `Nothing in the library is found by “${wanted}”.`
          : "The library's pictures did not come with this copy of Glyphaneme."}
      </Soft>
    );
  }
  const kinds = [...new Set(pictures.map(({ kind }) => kind))];
  return (
    <>
      <Soft>
        Made for Glyphaneme; use them in anything that you make, also what you sell. Click one to
        lay it on, or drag it to its place.
      </Soft>
      {kinds.map((kind) => {
        const alike = pictures.filter((picture) => picture.kind === kind);
        return (
          <TileSet key={kind} title={kind} count={alike.length}>
            <Grid>
              {alike.map((picture) => (
                <LibraryTile key={picture.name} picture={picture} />
              ))}
            </Grid>
          </TileSet>
        );
      })}
    </>
  );
}

interface ShelfSetsProps {
  readonly found: readonly Picture[];
  readonly sorting: Sorting;
  readonly isLoading: boolean;
  readonly trouble: string | null;
  readonly isBare: boolean;
  readonly wanted: string;
}

function ShelfSets(props: ShelfSetsProps): ReactElement {
  const { found, sorting, isLoading, trouble, isBare, wanted } = props;
  const marked = useDesk((desk) => desk.marked);
  if (isLoading) return <Soft>Looking through the shelf…</Soft>;
  if (trouble) return <Trouble reason={trouble} of="shelf" />;
  const isMarked = ({ id }: Picture) => marked.includes(id);
  const pointed = found.filter(isMarked);
  const rest = found.filter((picture) => !isMarked(picture));
  const first = { id: "pointed", title: "here already", pictures: pointed };
  const sets = setsOf(rest, sorting);
  if (pointed.length + sets.length === 0) {
    return (
      <Soft>
        {isBare
          ? "The shelf is empty. Bring pictures in, drop them anywhere on this window, or look into the library."
          : `Nothing on the shelf is called “${wanted}”.`}
      </Soft>
    );
  }
  return (
    <>
      {(pointed.length > 0 ? [first, ...sets] : sets).map((set) => (
        <OneSet key={set.id} set={set} />
      ))}
    </>
  );
}

interface TroubleProps {
  readonly reason: string;
  /** What was asked for, as queries are called. */
  readonly of: "shelf" | "library";
}

function Trouble({ reason, of }: TroubleProps): ReactElement {
  const client = useQueryClient();
  return (
    <div role="alert">
      {reason}{" "}
      <PlainButton onPress={() => void client.invalidateQueries({ queryKey: [of] })}>
        Try again
      </PlainButton>
    </div>
  );
}

/** More of one set are drawn only when they are asked for. */
const AT_ONCE = 60;

function OneSet({ set }: { readonly set: PictureSet }): ReactElement {
  const [most, setMost] = useState(AT_ONCE);
  const left = set.pictures.length - most;
  return (
    <TileSet title={set.title} count={set.pictures.length}>
      <Grid>
        {set.pictures.slice(0, most).map((picture) => (
          <ShelfTile key={picture.id} picture={picture} />
        ))}
      </Grid>
      {left > 0 ? (
        <PlainButton onPress={() => setMost(most + AT_ONCE * 4)}>
          Show {Math.min(left, AT_ONCE * 4)} more of {sayCount(set.pictures.length, "picture")}
        </PlainButton>
      ) : null}
    </TileSet>
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
