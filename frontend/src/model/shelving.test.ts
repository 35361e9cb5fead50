import type { components } from "@generated/schema";
import { expect, test } from "vitest";
import { foundOn, setsOf, UNUSED } from "@/model/shelving";

type Picture = components["schemas"]["Picture"];

const NOW = new Date(2026, 5, 12, 15);
const POSTER = { id: "poster", name: "Season poster" };
const CARD = { id: "card", name: "Postcard" };

function picture(name: string, changes: Partial<Picture> = {}): Picture {
  return {
    id: name,
    name,
    format: "JPEG",
    width: 30,
    height: 20,
    ready: true,
    note: null,
    has_map: false,
    on_shelf: true,
    library: null,
    used_in: [],
    created_at: new Date(2026, 5, 12, 9).toISOString(),
    ...changes,
  };
}

const MOTHS = picture("Moths", { used_in: [CARD, POSTER] });
const DUSK = picture("Forest at dusk", { created_at: new Date(2026, 5, 11, 23).toISOString() });
const OLD = picture("Keeper", { created_at: new Date(2025, 11, 3).toISOString() });
const DAWN = picture("Dawn", { on_shelf: false, library: "dawn", used_in: [CARD] });
const SHELF = [MOTHS, DUSK, OLD, DAWN];

const read = (sets: ReturnType<typeof setsOf>) =>
  sets.map(({ title, pictures }) => [title, pictures.map(({ name }) => name)]);

test("by day they are those brought in, the last day first", () => {
  expect(read(setsOf(SHELF, "day", NOW))).toEqual([
    ["today", ["Moths"]],
    ["yesterday", ["Forest at dusk"]],
    ["3 December 2025", ["Keeper"]],
  ]);
});

test("by project each shows what it uses, the library's too, and the unused come last", () => {
  expect(read(setsOf(SHELF, "project", NOW))).toEqual([
    ["Postcard", ["Moths", "Dawn"]],
    ["Season poster", ["Moths"]],
    [UNUSED, ["Forest at dusk", "Keeper"]],
  ]);
});

test("projects of one name stay apart", () => {
  const twins = [
    picture("A", { used_in: [{ id: "1", name: "Twin" }] }),
    picture("B", { used_in: [{ id: "2", name: "Twin" }] }),
  ];

  expect(read(setsOf(twins, "project", NOW))).toEqual([
    ["Twin", ["A"]],
    ["Twin", ["B"]],
  ]);
});

test("an empty shelf has no sets", () => {
  expect(setsOf([], "day", NOW)).toEqual([]);
  expect(setsOf([], "project", NOW)).toEqual([]);
});

test("pictures are found by their names and by the projects that show them", () => {
  const names = (wanted: string) => foundOn(SHELF, wanted).map(({ name }) => name);

  expect(names("dusk")).toEqual(["Forest at dusk"]);
  expect(names("season")).toEqual(["Moths"]);
  expect(names("post")).toEqual(["Moths", "Dawn"]);
  expect(names("nothing")).toEqual([]);
});
