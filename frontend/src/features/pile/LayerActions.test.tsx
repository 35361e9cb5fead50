import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { LayerActions } from "@/features/pile/LayerActions";
import type { Layer } from "@/model/composite";
import { useDesk } from "@/state/desk/desk";
import { deskWith, showOnDesk } from "@/testing/desk";
import { sampleGroup, sampleLayer, samplePlacement } from "@/testing/samples";

afterEach(cleanup);

const back = sampleLayer("back");
const front = sampleLayer("front");
const press = (name: string) => userEvent.click(screen.getByRole("button", { name }));

const open = () => userEvent.click(screen.getByRole("button", { name: /^More to do with/ }));

/** Do what stands in the menu. */
async function choose(name: string): Promise<void> {
  await open();
  await userEvent.click(screen.getByRole("menuitem", { name }));
}

function show(layer: Layer, ...layers: Layer[]) {
  const desk = deskWith(...layers);
  const onRename = vi.fn();
  showOnDesk(desk, <LayerActions layer={layer} onRename={onRename} />);
  return { desk, onRename };
}

test("a layer moves by one place in its pile", async () => {
  const { desk } = show(back, back, front);

  await press("Bring forward");

  expect(desk.edits).toEqual([{ kind: "move_layer", layer_id: "back", index: 1, into: null }]);
});

test("what cannot go further says so", () => {
  show(front, back, front);

  expect(screen.getByRole("button", { name: "Bring forward" })).toHaveProperty("disabled", true);
  expect(screen.getByRole("button", { name: "Send back" })).toHaveProperty("disabled", false);
});

test("two layers are put together under a name of both, and the group is opened", async () => {
  const { desk } = show(front, back, front);

  await choose("Put together with back");

  const [edit] = desk.edits;
  expect(edit).toMatchObject({
    kind: "group_layers",
    name: "back and front",
    layer_ids: ["back", "front"],
    mode: "normal",
  });
  expect(useDesk.getState().openLayer).toBe(edit?.kind === "group_layers" ? edit.group_id : "");
});

test("layers that blend alike make a group that blends so", async () => {
  const [one, other] = ["one", "other"].map((id) => sampleLayer(id, { blend: "multiply" }));
  const { desk } = show(other as Layer, one as Layer, other as Layer);

  await choose("Put together with one");

  expect(desk.edits).toMatchObject([{ kind: "group_layers", mode: "multiply" }]);
});

test("a layer over a group is put into it, in front", async () => {
  const group = sampleGroup("both", samplePlacement(), sampleLayer("a"), sampleLayer("b"));
  const { desk } = show(front, group, front);

  await choose("Put into both");

  expect(desk.edits).toEqual([{ kind: "move_layer", layer_id: "front", index: 2, into: "both" }]);
});

test("a member is taken out and lies over its group", async () => {
  const member = sampleLayer("member");
  const group = sampleGroup("both", samplePlacement(), member);
  const { desk } = show(member, back, group);

  await choose("Take out of both");

  expect(desk.edits).toEqual([{ kind: "move_layer", layer_id: "member", index: 2, into: null }]);
});

test("a group is taken apart", async () => {
  const group = sampleGroup("both", samplePlacement(), back, front);
  const { desk } = show(group, group);

  await choose("Take apart");

  expect(desk.edits).toEqual([{ kind: "dissolve_group", layer_id: "both" }]);
});

test("a locked layer can be unlocked, and not removed", async () => {
  const locked = sampleLayer("front", { locked: true });
  const { desk } = show(locked, back, locked);

  expect(screen.getByRole("button", { name: "Remove" })).toHaveProperty("disabled", true);
  await press("Unlock");

  expect(desk.edits).toEqual([{ kind: "lock_layer", layer_id: "front", locked: false }]);
});

test("members of a locked group stay in it, but change places", async () => {
  const group = { ...sampleGroup("both", samplePlacement(), back, front), locked: true };
  const { desk } = show(front, group);

  expect(screen.getByRole("button", { name: "Remove" })).toHaveProperty("disabled", true);
  await press("Send back");
  await open();
  const out = screen.getByRole("menuitem", { name: "Take out of both" });
  expect(out.getAttribute("aria-disabled")).toBe("true");

  expect(desk.edits).toEqual([{ kind: "move_layer", layer_id: "front", index: 0, into: "both" }]);
});

test("renaming is asked for where the name stands", async () => {
  const { onRename } = show(front, back, front);

  await choose("Rename");

  expect(onRename).toHaveBeenCalledOnce();
});
