/** A desk for tests: a known project, and a list of what is asked of it. */

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactElement } from "react";
import type { Edit, Layer } from "@/model/composite";
import { useDesk } from "@/state/desk/desk";
import { type OpenProject, openProject } from "@/state/project";
import { sampleComposite, sampleState } from "@/testing/samples";
import { type DeskActions, DeskContext } from "@/work/DeskContext";

export interface TestDesk extends DeskActions {
  readonly edits: Edit[];
  readonly moves: string[];
  readonly project: OpenProject;
}

/** Make layers the open project, and return what can be asked of it. */
export function deskWith(...layers: Layer[]): TestDesk {
  const edits: Edit[] = [];
  const moves: string[] = [];
  const project = openProject(sampleState({ composite: sampleComposite(...layers) }));
  useDesk.getState().actions.reset();
  return {
    projectId: "project",
    isLeft: () => false,
    project,
    edits,
    moves,
    edit: (edit) => edits.push(edit),
    undo: () => moves.push("undo"),
    redo: () => moves.push("redo"),
    stand: (revision) => moves.push(revision),
    rename: async (name) => void moves.push(`named ${name}`),
    tryAgain: () => moves.push("tried again"),
    leaveOut: () => moves.push("left out"),
  };
}

/** Render something as a part of that desk. */
export function showOnDesk(desk: TestDesk, part: ReactElement): void {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, enabled: false } } });
  render(
    <QueryClientProvider client={client}>
      <DeskContext.Provider value={desk}>{part}</DeskContext.Provider>
    </QueryClientProvider>,
  );
}
