import { expect, test } from "vitest";
import { type Edit, isPlaced } from "@/model/composite";
import { withEdits } from "@/model/expected";
import { sampleComposite, sampleGroup, sampleLayer, samplePlacement } from "@/testing/samples";

const composite = sampleComposite(sampleLayer("a"), sampleLayer("b"), sampleLayer("c"));
const orderAfter = (...edits: Edit[]) => withEdits(composite, edits).layers.map(({ id }) => id);

test("layers change places in the pile at once", () => {
  expect(orderAfter({ kind: "move_layer", layer_id: "a", index: 2, into: null })).toEqual([
    "b",
    "c",
    "a",
  ]);
  expect(orderAfter({ kind: "move_layer", layer_id: "c", index: 0, into: null })).toEqual([
    "c",
    "a",
    "b",
  ]);
});

test("a removed layer is gone at once, and edits of it change nothing", () => {
  const placed: Edit = { kind: "place_layer", layer_id: "b", placement: samplePlacement() };

  expect(orderAfter({ kind: "remove_layer", layer_id: "b" }, placed)).toEqual(["a", "c"]);
});

test("edits of one layer leave the others as they are", () => {
  const after = withEdits(composite, [
    { kind: "blend_layer", layer_id: "b", mode: "screen", opacity: 0.5 },
    { kind: "show_layer", layer_id: "b", visible: false },
  ]);

  expect(after.layers[1]).toMatchObject({ blend: "screen", opacity: 0.5, visible: false });
  expect(after.layers[0]).toBe(composite.layers[0]);
});

test("a sheet that grows at the left takes its layers along", () => {
  const after = withEdits(composite, [
    {
      kind: "set_canvas",
      canvas: { ...composite.canvas, width: 130 },
      shift_x: 30,
      shift_y: 0,
    },
  ]);

  expect(after.canvas.width).toBe(130);
  expect(after.layers.filter(isPlaced).map(({ placement }) => placement.x)).toEqual([80, 80, 80]);
});

test("mended places come, are switched and go at once", () => {
  const mend = { id: "m", points: [[1, 2]] as [number, number][], size: 8, works: true };
  const mended = (...edits: Edit[]) => {
    const [layer] = withEdits(composite, edits).layers;
    return layer?.kind === "photo" ? layer.mends : [];
  };
  const add: Edit = { kind: "mend_photo", layer_id: "a", mend };
  const off: Edit = { kind: "switch_mend", layer_id: "a", mend_id: "m", works: false };

  expect(mended(add)).toEqual([mend]);
  expect(mended(add, off)).toEqual([{ ...mend, works: false }]);
  expect(mended(add, { kind: "remove_mend", layer_id: "a", mend_id: "m" })).toEqual([]);
});

test("a group whose last member is removed goes with it", () => {
  const inner = sampleGroup("inner", samplePlacement(), sampleLayer("d"));
  const grouped = sampleComposite(sampleLayer("a"), sampleGroup("outer", samplePlacement(), inner));

  const after = withEdits(grouped, [{ kind: "remove_layer", layer_id: "d" }]);

  expect(after.layers.map(({ id }) => id)).toEqual(["a"]);
});
