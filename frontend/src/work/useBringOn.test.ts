import { beforeEach, expect, test } from "vitest";
import type { BroughtIn } from "@/api/types";
import { LINING_UP } from "@/model/aligning";
import { useDesk } from "@/state/desk/desk";
import { useMessages } from "@/state/messages";
import { deskWith } from "@/testing/desk";
import { sampleLayer } from "@/testing/samples";
import { layTogether } from "@/work/useBringOn";

const picture = (name: string) => ({ id: name, name, width: 40, height: 30 }) as BroughtIn;
const offered = () => useMessages.getState().messages.at(-1)?.actions ?? [];
const run = (label: string) =>
  offered()
    .find((one) => one.label === label)
    ?.run();

beforeEach(() => useMessages.setState({ messages: [] }));

/** Lay photos on, and let them be there as the service would answer. */
function lay(...names: string[]) {
  const desk = deskWith();
  layTogether(desk, names.map(picture));
  const ids = desk.edits.map((edit) => (edit.kind === "add_layer" ? edit.layer_id : ""));
  deskWith(...ids.map((id) => sampleLayer(id)));
  return { desk, ids };
}

test("photos that come together lie beside one another, and the last is open", () => {
  const desk = deskWith();
  layTogether(desk, [picture("one"), picture("other")]);

  expect(desk.edits.map((edit) => edit.kind === "add_layer" && edit.beside)).toEqual([
    { place: 0, count: 2 },
    { place: 1, count: 2 },
  ]);
  const last = desk.edits[1];
  expect(last?.kind === "add_layer" && last.layer_id).toBe(useDesk.getState().openLayer);
  expect(offered().map(({ label }) => label)).toEqual([
    "Melt them",
    "Fill with the first",
    "Line them up",
  ]);
});

test("one alone is laid on as ever, and nothing is offered", () => {
  const { desk } = lay("one");

  expect(desk.edits).toMatchObject([{ kind: "add_layer", at: null }]);
  expect(offered()).toEqual([]);
});

test("they melt in the order in which they came, and the first can fill the sheet", () => {
  const { desk, ids } = lay("one", "two", "three");

  run("Melt them");
  run("Fill with the first");

  const [melt, fill] = desk.edits.slice(3);
  expect(melt).toMatchObject({ kind: "melt_photos", layer_ids: ids });
  expect(fill).toMatchObject({ kind: "place_layer", layer_id: ids[0] });
});

test("those that were taken away meanwhile do not melt", () => {
  const { desk, ids } = lay("one", "two", "three");
  deskWith(...ids.slice(0, 2).map((id) => sampleLayer(id)));

  run("Melt them");

  expect(desk.edits.at(-1)).toMatchObject({ kind: "melt_photos", layer_ids: ids.slice(0, 2) });
});

test("two are lined up by what they show, more are chosen together", () => {
  const two = lay("one", "other");
  run("Line them up");
  expect(useDesk.getState()).toMatchObject({ openLayer: two.ids[1], line: LINING_UP, chosen: [] });

  const three = lay("one", "two", "three");
  run("Line them up");
  expect(useDesk.getState()).toMatchObject({ chosen: three.ids, line: null });
});
