/** Keeps the desk and the service in step: loads, sends, and hears of other windows. */

import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { fetchProject } from "@/api/calls";
import { Outbox, type Outgoing } from "@/api/outbox";
import type { ProjectState } from "@/api/types";
import type { DeskActions } from "@/features/desk/DeskContext";
import type { Edit } from "@/model/composite";
import { useDesk } from "@/state/desk";
import { useMessages } from "@/state/messages";
import { useNotices } from "@/state/notices";
import { useProject } from "@/state/project";

export type DeskSync =
  | { readonly phase: "loading" }
  | { readonly phase: "failed"; readonly reason: string; retry(): void }
  | { readonly phase: "ready"; readonly actions: DeskActions };

/** Open a project for as long as the component lives. */
export function useDeskSync(projectId: string): DeskSync {
  const [outbox, setOutbox] = useState<Outbox | null>(null);
  const [reason, setReason] = useState<string | null>(null);
  const [attempt, setAttempt] = useState(0);
  const opened = useRef<Outbox | null>(null);

  // biome-ignore lint/correctness/useExhaustiveDependencies: an attempt asks for another load
  useEffect(() => {
    let left = false;
    fetchProject(projectId)
      .then((state) => {
        if (left) return;
        useProject.getState().actions.know(state);
        opened.current = new Outbox(state, storeEvents());
        setOutbox(opened.current);
      })
      .catch((error: Error) => !left && setReason(error.message));
    return () => {
      left = true;
      opened.current?.close();
      opened.current = null;
      setOutbox(null);
      useProject.getState().actions.know(null);
      useProject.getState().actions.wait([], false);
      useDesk.getState().actions.reset();
    };
  }, [projectId, attempt]);

  useOtherWindows(projectId, outbox);
  const actions = useMemo(() => outbox && actionsOf(projectId, outbox), [projectId, outbox]);
  if (actions) return { phase: "ready", actions };
  if (reason === null) return { phase: "loading" };
  return {
    phase: "failed",
    reason,
    retry: () => {
      setReason(null);
      setAttempt((count) => count + 1);
    },
  };
}

function actionsOf(projectId: string, outbox: Outbox): DeskActions {
  return {
    projectId,
    edit: (edit) => outbox.push(edit),
    undo: () => outbox.undo(),
    redo: () => outbox.redo(),
    stand: (revision) => outbox.stand(revision),
  };
}

function storeEvents() {
  const { know, wait, connect } = useProject.getState().actions;
  const { say, warn } = useMessages.getState();
  return {
    onState: (state: ProjectState) => know(state),
    onWaiting: (waiting: readonly Outgoing[]) =>
      wait(
        waiting.flatMap((item): Edit[] => (item.kind === "edit" ? [item.edit] : [])),
        waiting.some((item) => item.kind !== "edit"),
      ),
    onConnection: connect,
    onOutcome: (outcome: string) => {
      if (outcome === "reapplied") {
        say("The picture had changed in another window; your change was made on top of that.");
      }
      if (outcome === "branched") {
        say(
          "The picture had changed in another window and your change no longer fits. " +
            "It is kept as another way, by the history ruler.",
        );
      }
    },
    onRefused: (reason: string) => warn(reason),
  };
}

function useOtherWindows(projectId: string, outbox: Outbox | null): void {
  const moved = useNotices((notices) => notices.moved);
  const catchUps = useNotices((notices) => notices.catchUps);
  const client = useQueryClient();

  useEffect(() => {
    const { known, waiting, moving } = useProject.getState();
    const sending = waiting.length > 0 || moving;
    if (!outbox || !known || sending || moved?.id !== projectId || moved.head === known.head)
      return;
    fetchProject(projectId).then(
      (state) => outbox.catchUp(state),
      () => undefined,
    );
  }, [moved, projectId, outbox]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: each catch-up asks anew
  useEffect(() => {
    if (!outbox) return;
    outbox.retry();
    useProject.getState().actions.connect(true);
    void client.invalidateQueries();
    fetchProject(projectId).then(
      (state) => {
        if (useProject.getState().waiting.length === 0) outbox.catchUp(state);
      },
      () => undefined,
    );
  }, [catchUps, projectId, outbox, client]);
}
