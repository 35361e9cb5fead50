/** The open project: what the service said last, and what still waits to be sent. */

import { create } from "zustand";
import type { Composite, Edit, ProjectState } from "@/model/composite";
import { withEdits } from "@/model/expected";

/** The service's state, of which the page keeps all. */
export type KnownState = ProjectState;

interface ProjectView {
  readonly known: KnownState | null;
  readonly waiting: readonly Edit[];
  readonly moving: boolean;
  /** Why nothing is sent at the moment; null where it is. */
  readonly held: string | null;
  /** Why the first thing that waits cannot be saved; null where it can. */
  readonly parked: string | null;
}

/** How a desk changes what is shown, for as long as it is the open one. */
export interface OpenProject {
  /** Take over a state, unless a newer one is known. */
  know(state: KnownState): void;
  wait(edits: readonly Edit[], moving: boolean): void;
  hold(reason: string | null): void;
  park(reason: string | null): void;
  leave(): void;
}

const NOTHING: ProjectView = {
  known: null,
  waiting: [],
  moving: false,
  held: null,
  parked: null,
};

export const useProject = create<ProjectView>(() => NOTHING);

let opened: object | null = null;

/** Open a project; whoever opened one before changes nothing any more. */
export function openProject(state: KnownState): OpenProject {
  const mine = {};
  opened = mine;
  useProject.setState({ ...NOTHING, known: state });
  const change = (changed: (view: ProjectView) => Partial<ProjectView>) => {
    if (opened === mine) useProject.setState(changed);
  };
  return {
    know: (known) => change((view) => ({ known: newerOf(view.known, known) })),
    wait: (waiting, moving) => change(() => ({ waiting, moving })),
    hold: (held) => change(() => ({ held })),
    park: (parked) => change(() => ({ parked })),
    leave: () => change(() => NOTHING),
  };
}

/**
 * Return the newer of two states. One that is as new may have another name and other ways;
 * of the same revision it shows the same: its composite is the very one of before.
 */
function newerOf(before: KnownState | null, known: KnownState): KnownState {
  if (!before || known.changes > before.changes) return known;
  if (known.changes < before.changes) return before;
  return known.head === before.head ? { ...known, composite: before.composite } : known;
}

/** How many changes wait to be sent. */
export function countWaiting({ waiting, moving }: ProjectView): number {
  return waiting.length + (moving ? 1 : 0);
}

const SAVED_WITHIN_MS = 8000;

/**
 * Return the state that is saved once nothing waits any more; changes that cannot be
 * saved are not in it.
 */
export async function savedRevision(): Promise<string> {
  const until = Date.now() + SAVED_WITHIN_MS;
  for (;;) {
    const { known, waiting, moving, parked } = useProject.getState();
    if (known && (parked !== null || (waiting.length === 0 && !moving))) return known.head;
    if (Date.now() > until) {
      throw new Error("Some changes are not saved yet; try again in a moment.");
    }
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

const expected = new WeakMap<object, WeakMap<object, Composite>>();

/** The composite as it will be once everything that waits is answered. */
export function useComposite(): Composite | null {
  return useProject(({ known, waiting }) => (known ? expectedOf(known, waiting) : null));
}

/** The same for as long as it is wanted; null otherwise, however often it changes. */
export function useCompositeWhile(isWanted: boolean): Composite | null {
  return useProject(({ known, waiting }) =>
    known && isWanted ? expectedOf(known, waiting) : null,
  );
}

/** The same for use outside of rendering. */
export function expectedComposite(): Composite | null {
  const { known, waiting } = useProject.getState();
  return known ? expectedOf(known, waiting) : null;
}

/** One result per input, so that selectors return the same object again. */
function expectedOf(known: KnownState, waiting: readonly Edit[]): Composite {
  const byWaiting = expected.get(known) ?? new WeakMap<object, Composite>();
  expected.set(known, byWaiting);
  const composite = byWaiting.get(waiting) ?? withEdits(known.composite, waiting);
  byWaiting.set(waiting, composite);
  return composite;
}
