import { expect, test } from "vitest";
import type { Edit, ProjectState } from "@/model/composite";
import { compositeOf, type Outgoing, standingAfter } from "@/model/standing";
import { sampleComposite, sampleLayer, sampleState } from "@/testing/samples";

const named = (name: string): Edit => ({ kind: "name_layer", layer_id: "a", name });
const edit = (key: string): Outgoing => ({ kind: "edit", key, edit: named(key) });
const undo = (of: string | null): Outgoing => ({ kind: "undo", key: `undo ${of}`, of });
const redo = (of: string | null): Outgoing => ({ kind: "redo", key: `redo ${of}`, of });
const stand = (to: string): Outgoing => ({ kind: "stand", key: `to ${to}`, to });

const state = (head: string, undo_to: string | null, more: Partial<ProjectState> = {}) =>
  sampleState({
    head,
    undo_to,
    composite: sampleComposite(sampleLayer("a")) as ProjectState["composite"],
    ...more,
  });

/** The service is at "three"; this window saw "two" and "one", the first of all. */
const [one, two, three] = [state("one", null), state("two", "one"), state("three", "two")];
const seen = new Map([one, two, three].map((each) => [each.head, each]));

function after(...waiting: Outgoing[]) {
  const { base, unsaved, head, canUndo, canRedo } = standingAfter(three, seen, waiting);
  const shown = [base.head, ...unsaved.map((each) => each.kind === "name_layer" && each.name)];
  return { shown: shown.join(" + "), head, canUndo, canRedo };
}

const forwards = { canUndo: true, canRedo: false };

test("edits lie on the saved state in their order", () => {
  expect(after()).toEqual({ shown: "three", head: "three", ...forwards });
  expect(after(edit("x"), edit("y"))).toEqual({ shown: "three + x + y", head: "y", ...forwards });
});

test("undo leads back through edits and states that were seen, to the first and no farther", () => {
  const back = [undo("three"), undo("two"), undo("one"), undo("one")];

  expect(after(edit("x"), undo("x"))).toMatchObject({ shown: "three", canRedo: true });
  expect(after(...back.slice(0, 1))).toMatchObject({ shown: "two", head: "two", canUndo: true });
  expect(after(...back)).toEqual({ shown: "one", head: "one", canUndo: false, canRedo: true });
});

test("redo leads where undo came from, the last first; an edit ends that", () => {
  const back = [undo("three"), undo("two")];

  expect(after(...back, redo("one"))).toMatchObject({ shown: "two", canRedo: true });
  expect(after(...back, redo("one"), redo("two"))).toMatchObject({
    shown: "three",
    canRedo: false,
  });
  expect(after(...back, edit("x"))).toEqual({ shown: "one + x", head: "x", ...forwards });
  expect(after(...back, edit("x"), redo("x"))).toMatchObject({ shown: "one + x" });
});

test("what was asked of a state that is none moves nothing", () => {
  expect(after(undo("refused"))).toMatchObject({ shown: "three", head: "three" });
  expect(after(edit("x"), redo("refused"))).toMatchObject({ shown: "three + x", head: "x" });
});

test("where this window saw no state, what it saw last is shown until the answer", () => {
  const unseen = standingAfter(three, new Map(), [undo("three"), edit("x")]);

  expect(standingAfter(three, new Map(), [undo("three")]).head).toBeNull();
  expect(unseen).toMatchObject({ base: { head: "three" }, head: "x", canUndo: true });
  expect(after(stand("elsewhere"))).toMatchObject({ shown: "three", head: null, canUndo: true });
  expect(after(stand("one"), edit("x"))).toMatchObject({ shown: "one + x", head: "x" });
});

test("the same edits on the same state are the very same composite", () => {
  const [first, again] = [0, 1].map(() => standingAfter(three, seen, waiting));

  expect(again?.unsaved).toBe(first?.unsaved);
  expect(compositeOf(three, first?.unsaved ?? [])).toBe(compositeOf(three, again?.unsaved ?? []));
});

const waiting = [edit("x"), edit("y")];
