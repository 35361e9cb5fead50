/** The open project: what the service said last, and what still waits to be sent. */

import { create } from "zustand";
import type { Composite, Edit, ProjectState } from "@/model/composite";
import { compositeOf, type Standing, standingAfter } from "@/model/standing";

/** A state of the project as the service said it. */
export type KnownState = ProjectState;

interface ProjectView {
  /** The saved state that is shown, under the name that the project has now. */
  readonly known: KnownState | null;
  /** What is shown on top of it. */
  readonly waiting: readonly Edit[];
  /** The state that is saved last, which may be another one than is shown. */
  readonly saved: KnownState | null;
  /** How many changes and moves wait to be sent. */
  readonly queued: number;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** Why nothing is sent at the moment; null where it is. */
  readonly held: string | null;
  /** Why the first thing that waits cannot be saved; null where it can. */
  readonly parked: string | null;
}

/** How a desk changes what is shown, for as long as it is the open one. */
export interface OpenProject {
  /** Show where the project stands, though so much of it still waits. */
  stand(standing: Standing, queued: number): void;
  hold(reason: string | null): void;
  park(reason: string | null): void;
  leave(): void;
}

const NOTHING: ProjectView = {
  known: null,
  waiting: [],
  saved: null,
  queued: 0,
  canUndo: false,
  canRedo: false,
  held: null,
  parked: null,
};

export const useProject = create<ProjectView>(() => NOTHING);

let opened: object | null = null;

/** Open a project; whoever opened one before changes nothing any more. */
export function openProject(state: KnownState): OpenProject {
  const mine = {};
  opened = mine;
  useProject.setState({ ...NOTHING, ...shownBy(standingAfter(state, new Map(), [])) });
  const change = (changed: (view: ProjectView) => Partial<ProjectView>) => {
    if (opened === mine) useProject.setState(changed);
  };
  return {
    stand: (standing, queued) => change((view) => ({ ...shownBy(standing, view), queued })),
    hold: (held) => change(() => ({ held })),
    park: (parked) => change(() => ({ parked })),
    leave: () => change(() => NOTHING),
  };
}

/** Return what is shown of a standing: what is the same as before stays the very same. */
function shownBy(
  { base, latest, unsaved, canUndo, canRedo }: Standing,
  before: ProjectView = NOTHING,
): Partial<ProjectView> {
  const { name, changes } = latest;
  const isSame = before.known?.composite === base.composite && before.saved === latest;
  const known = isSame ? before.known : { ...base, name, changes };
  return { known, waiting: unsaved, saved: latest, canUndo, canRedo };
}

const SAVED_WITHIN_MS = 8000;

/**
 * Return the state that is saved once nothing waits any more; changes that cannot be
 * saved are not in it.
 */
export async function savedRevision(): Promise<string> {
  const until = Date.now() + SAVED_WITHIN_MS;
  for (;;) {
    const { saved, queued, parked } = useProject.getState();
    if (saved && (parked !== null || queued === 0)) return saved.head;
    if (Date.now() > until) {
      throw new Error("Some changes are not saved yet; try again in a moment.");
    }
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** The composite as it will be once everything that waits is answered. */
export function useComposite(): Composite | null {
  return useProject(({ known, waiting }) => (known ? compositeOf(known, waiting) : null));
}

/** The same for as long as it is wanted; null otherwise, however often it changes. */
export function useCompositeWhile(isWanted: boolean): Composite | null {
  return useProject(({ known, waiting }) =>
    known && isWanted ? compositeOf(known, waiting) : null,
  );
}

/** The same for use outside of rendering. */
export function expectedComposite(): Composite | null {
  const { known, waiting } = useProject.getState();
  return known ? compositeOf(known, waiting) : null;
}
