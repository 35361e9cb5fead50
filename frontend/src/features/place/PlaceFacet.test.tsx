import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test } from "vitest";
import { PlaceFacet } from "@/features/place/PlaceFacet";
import type { Layer, PlacedLayer } from "@/model/composite";
import { useDesk } from "@/state/desk/desk";
import { useSettings } from "@/state/settings";
import { deskWith, showOnDesk } from "@/testing/desk";
import { sampleGroup, sampleLayer, samplePlacement } from "@/testing/samples";

afterEach(() => {
  cleanup();
  useSettings.getState().setUnit("px");
});

function show(layer: PlacedLayer, ...layers: Layer[]) {
  const desk = deskWith(...(layers.length > 0 ? layers : [layer]));
  showOnDesk(desk, <PlaceFacet layer={layer} />);
  return desk;
}

const box = (name: string) => screen.getByRole("textbox", { name });

async function type(name: string, text: string) {
  await userEvent.clear(box(name));
  await userEvent.type(box(name), `${text}{Enter}`);
}

test("a typed number places the layer and leaves the rest", async () => {
  const desk = show(sampleLayer("a"));

  await type("Across", "12.5");

  expect(desk.edits).toEqual([
    { kind: "place_layer", layer_id: "a", placement: samplePlacement({ x: 12.5 }) },
  ]);
});

test("size counts for both ways while it is in proportion", async () => {
  const desk = show(sampleLayer("a"));

  await type("Size", "50");

  expect(desk.edits[0]).toMatchObject({ placement: { scale_x: 0.5, scale_y: 0.5 } });
});

test("width and height are apart once proportion is given up", async () => {
  const desk = show(sampleLayer("a"));

  await userEvent.click(screen.getByRole("checkbox", { name: "In proportion" }));
  await type("Height", "300");

  expect(desk.edits[0]).toMatchObject({ placement: { scale_x: 1, scale_y: 3 } });
});

test("a group keeps its proportions and does not offer to give them up", async () => {
  const group = sampleGroup("g", samplePlacement(), sampleLayer("m"));
  const desk = show(group);

  expect(screen.queryByRole("checkbox")).toBeNull();
  await type("Size", "200");

  expect(desk.edits[0]).toMatchObject({ placement: { scale_x: 2, scale_y: 2 } });
});

test("a member shows where it lies on the canvas, and is placed there", async () => {
  const member = sampleLayer("m", { placement: samplePlacement({ x: 10, y: 5 }) });
  const group = sampleGroup("g", samplePlacement({ scale_x: 2, scale_y: 2 }), member);
  const desk = show(member, group);

  expect(box("Across")).toHaveProperty("value", "50");
  expect(box("Size")).toHaveProperty("value", "200");
  await type("Across", "60");

  // Ten canvas pixels are five of a group that is shown at double size.
  expect(desk.edits[0]).toMatchObject({ layer_id: "m", placement: { x: 15, y: 5, scale_x: 1 } });
});

test("what is being dragged is shown before it is saved", () => {
  const desk = deskWith(sampleLayer("a"));
  useDesk
    .getState()
    .actions.setLive({ kind: "place_layer", layer_id: "a", placement: samplePlacement({ x: 77 }) });

  showOnDesk(desk, <PlaceFacet layer={sampleLayer("a")} />);

  expect(box("Across")).toHaveProperty("value", "77");
});

test("members of a locked group are held", () => {
  const member = sampleLayer("m");
  const group = { ...sampleGroup("g", samplePlacement(), member), locked: true };
  show(member, group);

  expect(box("Across")).toHaveProperty("disabled", true);
  expect(screen.getByRole("button", { name: "Fill" })).toHaveProperty("disabled", true);
});

test.each([
  ["cm", "2.54", 240],
  ["in", "0.5", 120],
] as const)("in %s a place is told and taken by the sheet's ppi", async (unit, typed, pixels) => {
  useSettings.getState().setUnit(unit);
  const desk = show(sampleLayer("a"));

  await type("Across", typed);

  expect(desk.edits[0]).toMatchObject({ placement: { x: pixels } });
});

test("on paper a size is a length, and keeps the proportion", async () => {
  useSettings.getState().setUnit("cm");
  const layer = sampleLayer("a");
  const desk = show(layer);

  await type("Height", "2.54");

  const scale = 240 / layer.height;
  expect(desk.edits[0]).toMatchObject({ placement: { scale_x: scale, scale_y: scale } });
});

test("what it is measured in is a word, and is kept", async () => {
  show(sampleLayer("a"));

  await userEvent.click(screen.getByRole("button", { name: /What it is measured in/ }));
  await userEvent.click(screen.getByRole("option", { name: "inches" }));

  expect(screen.getByRole("textbox", { name: "Width" })).toBeTruthy();
  expect(localStorage.getItem("glyphaneme.unit")).toBe("in");
});
