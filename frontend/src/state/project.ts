/** The open project: what the service said last, and what still waits to be sent. */

import { create } from "zustand";
import type { Composite, Edit } from "@/model/composite";
import { withEdits } from "@/model/expected";

interface Words {
  readonly text: string;
  readonly touch: "name" | "wash" | "place" | "blend" | "shown" | "lock" | "sheet" | "words";
}

/** The part of the service's state that the page keeps. */
export interface KnownState {
  readonly id: string;
  readonly name: string;
  readonly head: string;
  readonly undo_to?: string | null;
  readonly redo_to?: string | null;
  readonly composite: Composite;
  readonly sentences: readonly { readonly layer_id: string; readonly parts: readonly Words[] }[];
  readonly sheet: readonly Words[];
}

interface ProjectStore {
  readonly known: KnownState | null;
  readonly waiting: readonly Edit[];
  readonly moving: boolean;
  readonly connected: boolean;
  readonly actions: {
    know(state: KnownState | null): void;
    wait(edits: readonly Edit[], moving: boolean): void;
    connect(connected: boolean): void;
  };
}

export const useProject = create<ProjectStore>((set) => ({
  known: null,
  waiting: [],
  moving: false,
  connected: true,
  actions: {
    know: (known) => set({ known }),
    wait: (waiting, moving) => set({ waiting, moving }),
    connect: (connected) => set({ connected }),
  },
}));

const expected = new WeakMap<object, WeakMap<object, Composite>>();

/** The composite as it will be once everything that waits is answered. */
export function useComposite(): Composite | null {
  return useProject(({ known, waiting }) => (known ? expectedOf(known, waiting) : null));
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
