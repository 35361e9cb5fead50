/** Begins new pictures: of a chosen size, or as large as a photo. */

import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { useNavigate } from "react-router";
import { v4 as newId } from "uuid";
import { beginProject, sendEdit } from "@/api/calls";
import type { BroughtIn, ProjectState } from "@/api/types";
import type { Canvas, Edit } from "@/model/composite";
import { nameForToday } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { useMessages } from "@/state/messages";
import { useProject } from "@/state/project";
import { BEGUN } from "@/work/useBegun";
import { countPhotos, useBringIn } from "@/work/useBringIn";
import { useDroppedFiles } from "@/work/useDroppedFiles";

const PHOTO_PPI = 240;

/** Return what begins an empty picture and opens it. */
export function useBegin(): (canvas: Canvas) => void {
  const navigate = useNavigate();
  const client = useQueryClient();
  return useCallback(
    (canvas) => {
      const id = newId();
      beginProject(id, nameForToday(), canvas).then(
        () => {
          void client.invalidateQueries({ queryKey: ["wall"] });
          void navigate(`/desk/${id}`);
        },
        (error: Error) => useMessages.getState().warn(error.message),
      );
    },
    [navigate, client],
  );
}

/** Return what brings photos in and begins a picture as large as the first of them. */
export function useBeginFromPhotos(): (files: readonly File[]) => void {
  const navigate = useNavigate();
  const bringIn = useBringIn();
  return useCallback(
    (files) => {
      const count = countPhotos(files);
      let laid = 0;
      let state: Promise<ProjectState> | null = null;
      // Each is laid on as it comes; the first one gives the size and opens the desk.
      bringIn(files, (picture) => {
        const place = laid;
        laid += 1;
        const beside = place > 0 && place < count ? { place, count } : null;
        state = (state ?? beginAsLargeAs(picture))
          .then((before) => layOver(before, picture, beside))
          .then((after) => {
            if (place === 0) void navigate(`/desk/${after.id}`, { state: BEGUN });
            else openLast(after);
            return after;
          });
        state.catch((error: Error) => useMessages.getState().warn(error.message));
      });
    },
    [navigate, bringIn],
  );
}

/** Photos dropped anywhere on the wall, or pasted, begin a picture. */
export function useDroppedStart(): void {
  useDroppedFiles(useBeginFromPhotos());
}

function beginAsLargeAs(picture: BroughtIn): Promise<ProjectState> {
  return beginProject(newId(), picture.name, {
    width: picture.width,
    height: picture.height,
    ppi: PHOTO_PPI,
    background: "#ffffff",
  });
}

/** Open what was laid on last, where its desk is open by now. */
function openLast({ id, composite }: ProjectState): void {
  if (useProject.getState().known?.id !== id) return;
  useDesk.getState().actions.open(composite.layers.at(-1)?.id ?? null, "place");
}

async function layOver(
  state: ProjectState,
  picture: BroughtIn,
  beside: { readonly place: number; readonly count: number } | null,
): Promise<ProjectState> {
  const edit: Edit = {
    kind: "add_layer",
    layer_id: newId(),
    picture: picture.id,
    name: picture.name,
    width: picture.width,
    height: picture.height,
    index: null,
    at: null,
    beside,
  };
  const answer = await sendEdit(state.id, { key: newId(), parent: state.head, edit });
  return answer.state;
}
