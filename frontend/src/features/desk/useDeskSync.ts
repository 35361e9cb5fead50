/** Keeps the desk and the service in step: loads, sends, and hears of other windows. */

import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { fetchProject, renameProject } from "@/api/calls";
import { Outbox, type OutboxEvents } from "@/api/outbox";
import type { ProjectState } from "@/api/types";
import { stopFinding } from "@/state/cutting";
import { useDesk } from "@/state/desk/desk";
import { stopMany } from "@/state/manyCuts";
import { useMessages } from "@/state/messages";
import { useNotices } from "@/state/notices";
import { type OpenProject, openProject, useProject } from "@/state/project";
import type { DeskActions } from "@/work/DeskContext";

export type DeskSync =
  | { readonly phase: "loading" }
  | { readonly phase: "failed"; readonly reason: string; retry(): void }
  | { readonly phase: "ready"; readonly actions: DeskActions };

interface Opened {
  readonly outbox: Outbox;
  readonly actions: DeskActions;
}

/** Open a project for as long as the component lives. */
export function useDeskSync(projectId: string): DeskSync {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [reason, setReason] = useState<string | null>(null);
  const [attempt, setAttempt] = useState(0);

  // biome-ignore lint/correctness/useExhaustiveDependencies: an attempt asks for another load
  useEffect(() => {
    let leave: () => void = () => undefined;
    let left = false;
    const open = (state: ProjectState) => {
      const project = openProject(state);
      const outbox = new Outbox(state, {
        ...eventsFor(project),
        onStale: () => void catchUp(projectId, outbox),
      });
      setOpened({ outbox, actions: actionsOf(projectId, outbox, () => left) });
      leave = () => {
        outbox.close();
        project.leave();
      };
    };
    useNotices.getState().follow(projectId);
    fetchProject(projectId).then(
      (state) => left || open(state),
      (error: Error) => left || setReason(error.message),
    );
    return () => {
      left = true;
      leave();
      setOpened(null);
      useNotices.getState().follow(null);
      stopFinding();
      stopMany();
      useDesk.getState().actions.reset();
    };
  }, [projectId, attempt]);

  useOtherWindows(projectId, opened?.outbox ?? null);
  if (opened) return { phase: "ready", actions: opened.actions };
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

function actionsOf(projectId: string, outbox: Outbox, isLeft: () => boolean): DeskActions {
  return {
    projectId,
    isLeft,
    edit: (edit) => outbox.push(edit),
    undo: () => outbox.undo(),
    redo: () => outbox.redo(),
    stand: (revision) => outbox.stand(revision),
    tryAgain: () => outbox.retry(),
    leaveOut: () => outbox.leaveOut(),
    rename: async (name) => {
      await renameProject(projectId, name);
      outbox.rename(name);
    },
  };
}

function eventsFor(project: OpenProject): Omit<OutboxEvents, "onStale"> {
  const { say, warn } = useMessages.getState();
  return {
    onStanding: (standing, waiting) => project.stand(standing, waiting.length),
    onHeld: project.hold,
    onParked: project.park,
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
    onOvertaken: () =>
      say("The picture had changed in another window meanwhile; nothing was taken back."),
    onRefused: (reason: string) => warn(reason),
    onNotKept: () =>
      warn(
        "The browser has no room to keep what is not saved yet. Leave this window open " +
          "until it says that all is saved.",
      ),
  };
}

function useOtherWindows(projectId: string, outbox: Outbox | null): void {
  const told = useNotices(({ followed }) => (followed?.id === projectId ? followed.changes : 0));
  const catchUps = useNotices((notices) => notices.catchUps);
  const known = useProject((project) => project.known?.changes ?? 0);
  // What is told while something is sent is looked at when all is sent.
  const sending = useProject((project) => project.queued > 0);
  const client = useQueryClient();

  useEffect(() => {
    if (!outbox || sending || told <= known) return;
    void catchUp(projectId, outbox);
  }, [told, known, sending, projectId, outbox]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: each catch-up asks anew
  useEffect(() => {
    if (!outbox) return;
    outbox.retry();
    void client.invalidateQueries();
    void catchUp(projectId, outbox);
  }, [catchUps, projectId, outbox, client]);
}

/** Take over how the project stands now, if it can be asked. */
async function catchUp(projectId: string, outbox: Outbox): Promise<void> {
  try {
    outbox.catchUp(await fetchProject(projectId));
  } catch {
    // The next notice, or the connection that is back, asks again.
  }
}
