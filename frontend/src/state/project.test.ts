import { expect, test } from "vitest";
import { standingAfter } from "@/model/standing";
import { expectedComposite, openProject, savedRevision, useProject } from "@/state/project";
import { sampleState } from "@/testing/samples";

const at = (head: string, changes: number) => sampleState({ head, changes });

test("a state that is gone back to shows itself, under the name and count of now", () => {
  const [first, second] = [at("one", 1), at("two", 2)];
  const seen = new Map([[first.head, first]]);
  const now = { ...second, name: "Renamed", undo_to: "one" };
  const project = openProject(now);

  const undo = { kind: "undo", key: "k", of: "two" } as const;
  project.stand(standingAfter(now, seen, [undo]), 1);

  const { known, saved, queued } = useProject.getState();
  expect(known).toMatchObject({ head: "one", name: "Renamed", changes: 2 });
  expect(expectedComposite()).toBe(first.composite);
  expect([saved?.head, queued]).toEqual(["two", 1]);
});

test("what is the same as before stays the very same object", () => {
  const state = at("one", 1);
  const project = openProject(state);
  project.stand(standingAfter(state, new Map(), []), 0);
  const { known } = useProject.getState();

  project.stand(standingAfter(state, new Map(), []), 0);

  expect(useProject.getState().known).toBe(known);
});

test("whoever opened a project before changes nothing any more", () => {
  const before = openProject(at("one", 1));
  openProject(at("two", 1));

  before.stand(standingAfter(at("three", 3), new Map(), []), 0);
  before.hold("Connection lost");

  expect(useProject.getState()).toMatchObject({ known: { head: "two" }, held: null });
});

test("the saved revision is waited for, but not behind what cannot be saved", async () => {
  const project = openProject(at("one", 1));
  project.stand(standingAfter(at("one", 1), new Map(), []), 1);
  const saved = savedRevision();
  project.stand(standingAfter(at("two", 2), new Map(), []), 0);
  expect(await saved).toBe("two");

  project.stand(standingAfter(at("two", 2), new Map(), []), 1);
  project.park("A fault.");

  expect(await savedRevision()).toBe("two");
});
