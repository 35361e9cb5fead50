/** One picture of the library: it becomes an ordinary one when it is laid on. */

import type { ReactElement } from "react";
import { libraryThumbnailUrl } from "@/api/calls";
import type { LibraryPicture } from "@/api/types";
import { Tile } from "@/features/shelf/shelfParts";
import { layOn } from "@/work/commands";
import { useDeskActions } from "@/work/DeskContext";
import { carryEntry } from "@/work/dragging";
import { lend } from "@/work/useBringIn";

export function LibraryTile({ picture }: { readonly picture: LibraryPicture }): ReactElement {
  const desk = useDeskActions();
  const { name, title, width, height, words } = picture;
  const seeThrough = picture.kind === "Silhouettes" || picture.kind === "Ornaments";
  return (
    <li>
      <Tile
        type="button"
        draggable
        title={`${title}, ${width} × ${height}: ${words}`}
        aria-label={`Lay on ${title}, ${width} by ${height} pixels, from the library`}
        onDragStart={(event) => carryEntry(event.dataTransfer, picture)}
        onClick={() => lend(picture, (lent) => layOn(desk, lent))}
      >
        <img
          src={libraryThumbnailUrl(name)}
          alt=""
          draggable={false}
          loading="lazy"
          data-whole={seeThrough}
        />
        <span>{title}</span>
      </Tile>
    </li>
  );
}
