/** Versions of a project: moments that have names, and what can be done with them. */

import { type UseQueryResult, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { v4 as newId } from "uuid";
import {
  copyProject,
  fetchProject,
  fetchVersions,
  forgetName,
  nameMoment,
  sendStanding,
} from "@/api/calls";
import type { Version } from "@/api/types";
import { useMessages } from "@/state/messages";

export function useVersions(projectId: string): UseQueryResult<Version[]> {
  return useQuery({
    queryKey: ["versions", projectId],
    queryFn: () => fetchVersions(projectId),
  });
}

interface VersionActions {
  /** Give a moment a name; `called` is what it was before. */
  name(revision: string, name: string): void;
  forget(version: Pick<Version, "revision" | "name">): void;
  /** Make a picture of its own of a moment, or of how the project stands. */
  copy(revision: string | null): void;
  /** Go to a moment, at the desk. */
  open(revision: string): void;
}

/** What is kept of versions is fetched anew after each of these. */
export function useVersionActions(projectId: string): VersionActions {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { say, warn } = useMessages.getState();
  const then = <T>(work: Promise<T>, done: (result: T) => void) => {
    work
      .then((result) => {
        for (const key of ["versions", "history", "wall"]) {
          void client.invalidateQueries({ queryKey: [key] });
        }
        done(result);
      })
      .catch((error: Error) => warn(error.message));
  };
  const name = (revision: string, called: string) =>
    then(nameMoment(projectId, revision, called), () =>
      say(`This moment is called ${called} now.`),
    );
  return {
    name,
    forget: (version) =>
      then(forgetName(projectId, version.revision), () =>
        say(`The name ${version.name} is forgotten; the moment stays in the history.`, {
          label: "Give it back",
          run: () => name(version.revision, version.name),
        }),
      ),
    copy: (revision) =>
      then(copyProject(projectId, { id: newId(), revision }), (copy) =>
        say(`${copy.name} hangs on the wall now.`, {
          label: "Open it",
          run: () => void navigate(`/desk/${copy.id}`),
        }),
      ),
    open: (revision) =>
      then(standAt(projectId, revision), () => void navigate(`/desk/${projectId}`)),
  };
}

async function standAt(projectId: string, revision: string): Promise<void> {
  const { head } = await fetchProject(projectId);
  if (head !== revision) {
    await sendStanding(projectId, { key: newId(), to: revision, came_from: head });
  }
}
