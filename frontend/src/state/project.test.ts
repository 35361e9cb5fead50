import { expect, test } from "vitest";
import { expectedComposite, openProject, useProject } from "@/state/project";
import { sampleState } from "@/testing/samples";

test("what is told again shows the very same composite, under the name of now", () => {
  const first = sampleState({ changes: 4, head: "four" });
  const project = openProject(first);

  project.know({ ...structuredClone(first), name: "Renamed" });

  expect(expectedComposite()).toBe(first.composite);
  expect(useProject.getState().known?.name).toBe("Renamed");
});

test("a newer state brings its own composite, an older one nothing", () => {
  const project = openProject(sampleState({ changes: 4, head: "four" }));
  const newer = sampleState({ changes: 5, head: "five" });

  project.know(newer);
  project.know(sampleState({ changes: 4, head: "four" }));

  expect(expectedComposite()).toBe(newer.composite);
  expect(useProject.getState().known?.head).toBe("five");
});
