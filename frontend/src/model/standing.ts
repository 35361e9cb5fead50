/**
 * Where a project stands once all that waits has been answered: edits that are on their
 * way, and moves through the history, each bound to what it was asked of.
 */

import type { Composite, Edit, ProjectState } from "@/model/composite";
import { withEdits } from "@/model/expected";

export type Outgoing =
  | { readonly kind: "edit"; readonly key: string; readonly edit: Edit }
  | {
      readonly kind: "undo" | "redo";
      readonly key: string;
      /** The state that it was asked in; null where this window did not know which. */
      readonly of: string | null;
    }
  | { readonly kind: "stand"; readonly key: string; readonly to: string };

export interface Standing {
  /** What the service said last. */
  readonly latest: ProjectState;
  /** The saved state that is shown, which others may lie beyond. */
  readonly base: ProjectState;
  /** What is shown on top of it. */
  readonly unsaved: readonly Edit[];
  /** The state that it stands in, saved or not; null where this window does not know. */
  readonly head: string | null;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
}

/** One state on the way: an edit's key is the name of the state that it makes. */
interface Step {
  readonly id: string;
  /** The one before it; null for the first of all, undefined where that is not known. */
  readonly parent: string | null | undefined;
  readonly base: ProjectState;
  readonly unsaved: readonly Edit[];
}

const NO_EDITS: readonly Edit[] = [];

/** Return where a project stands after all that waits, as far as this window can tell. */
export function standingAfter(
  latest: ProjectState,
  seen: ReadonlyMap<string, ProjectState>,
  waiting: readonly Outgoing[],
): Standing {
  const way = new Way(latest, seen);
  for (const item of waiting) way.go(item);
  const { here, shown, ahead } = way;
  return {
    latest,
    base: shown.base,
    unsaved: shown.unsaved,
    head: here?.id ?? null,
    canUndo: here === null || here.parent !== null,
    canRedo: ahead.length > 0,
  };
}

class Way {
  /** What is shown: the last state that this window knows. */
  shown: Step;
  /** Where it stands; null where this window does not know. */
  here: Step | null;
  /** Where redo leads, the nearest first. */
  ahead: readonly string[];
  readonly #steps = new Map<string, Step>();
  readonly #seen: ReadonlyMap<string, ProjectState>;

  constructor(latest: ProjectState, seen: ReadonlyMap<string, ProjectState>) {
    this.#seen = seen;
    this.shown = saved(latest);
    this.here = this.shown;
    this.#steps.set(latest.head, this.shown);
    this.ahead = latest.redo_to ? [latest.redo_to] : [];
  }

  go(item: Outgoing): void {
    if (item.kind === "edit") this.#add(item.key, item.edit);
    else if (item.kind === "stand") this.#standAt(item.to);
    // What it was asked of is gone: refused, or become another way.
    else if (item.of !== null && this.here && this.here.id !== item.of) return;
    else if (item.kind === "undo") this.#back();
    else this.#forth();
  }

  #add(id: string, edit: Edit): void {
    const { base, unsaved } = this.shown;
    this.shown = { id, parent: this.here?.id, base, unsaved: withOneMore(unsaved, edit) };
    this.here = this.shown;
    this.#steps.set(id, this.shown);
    this.ahead = [];
  }

  #back(): void {
    const from = this.here;
    if (from?.parent === null) return;
    this.here = from?.parent === undefined ? null : this.#find(from.parent);
    if (from) this.ahead = [from.id, ...this.ahead];
    this.#show();
  }

  #forth(): void {
    const [next, ...rest] = this.ahead;
    if (next === undefined) return;
    this.here = this.#find(next);
    this.ahead = rest;
    this.#show();
  }

  #standAt(to: string): void {
    this.here = this.#find(to);
    const after = this.#seen.get(to)?.redo_to;
    this.ahead = after ? [after] : [];
    this.#show();
  }

  #show(): void {
    if (this.here) this.shown = this.here;
  }

  /** Return a state that this window knows; null for others. */
  #find(id: string): Step | null {
    const step = this.#steps.get(id);
    if (step) return step;
    const state = this.#seen.get(id);
    return state ? saved(state) : null;
  }
}

function saved(state: ProjectState): Step {
  return { id: state.head, parent: state.undo_to, base: state, unsaved: NO_EDITS };
}

/** What was reckoned of two objects: the very same for the very same. */
class OfTwo<One extends object, Other extends object, Found> {
  readonly #found = new WeakMap<One, WeakMap<Other, Found>>();

  of(one: One, other: Other, reckon: () => Found): Found {
    const ofOne = this.#found.get(one) ?? new WeakMap<Other, Found>();
    this.#found.set(one, ofOne);
    const found = ofOne.get(other) ?? reckon();
    ofOne.set(other, found);
    return found;
  }
}

const longer = new OfTwo<readonly Edit[], Edit, readonly Edit[]>();
const expected = new OfTwo<object, readonly Edit[], Composite>();

function withOneMore(edits: readonly Edit[], edit: Edit): readonly Edit[] {
  return longer.of(edits, edit, () => [...edits, edit]);
}

/** Return a state's composite with edits on top. */
export function compositeOf(base: ProjectState, unsaved: readonly Edit[]): Composite {
  return expected.of(base.composite, unsaved, () => withEdits(base.composite, unsaved));
}
