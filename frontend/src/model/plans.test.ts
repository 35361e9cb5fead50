import { expect, test } from "vitest";
import {
  exchangeable,
  exchanged,
  type Filling,
  moved,
  NOTHING,
  nextPlace,
  type PlanOffer,
  piecesOf,
  placeNow,
  poured,
  roomFor,
  sayNumber,
  saySheet,
  withoutPhoto,
  withPhoto,
} from "@/model/plans";

function slot(name: string, changes: Partial<PlanOffer["slots"][number]> = {}) {
  return {
    name,
    title: name.toUpperCase(),
    suits: "",
    why: "",
    needed: true,
    least: 1,
    most: 1,
    whole: false,
    made_with: null,
    ...changes,
  };
}

function plan(...slots: PlanOffer["slots"][number][]): PlanOffer {
  return {
    name: "plan",
    title: "A plan",
    is_own: false,
    sentence: "",
    about: "",
    sheet: {
      width: 10,
      height: 10,
      ppi: 240,
      background: null,
      background_of: null,
      follows: null,
      turns: false,
      shared: false,
    },
    slots,
    words: [],
    choices: [],
    steps: [],
    shown_with: [],
  };
}

const having = (photos: Filling["photos"]): Filling => ({ ...NOTHING, photos });

const one = slot("one");
const things = slot("things", { needed: false });
const row = slot("row", { least: 2, most: 3 });

test("a photo takes another one's place, or comes after all that are there", () => {
  const first = withPhoto(NOTHING, { slot: row, at: 2 }, "a");
  expect(first.photos).toEqual({ row: ["a"] });
  expect(withPhoto(first, { slot: row, at: 0 }, "b").photos).toEqual({ row: ["b"] });
  const full = having({ row: ["a", "b", "c"] });
  expect(withPhoto(full, { slot: row, at: 3 }, "d").photos).toEqual({ row: ["a", "b", "c"] });
  expect(full.photos).toEqual({ row: ["a", "b", "c"] });
});

test("of several files that come one after the other none takes another one's place", () => {
  const put = (now: Filling, id: string) => withPhoto(now, placeNow(now, { slot: row, at: 0 }), id);
  expect(["a", "b", "c"].reduce(put, NOTHING).photos).toEqual({ row: ["a", "b", "c"] });
  const other = withPhoto(having({ one: ["a"] }), placeNow(NOTHING, { slot: one, at: 0 }), "b");
  expect(other.photos).toEqual({ one: ["b"] });
});

test("photos are taken out and moved, not beyond their row", () => {
  const full = having({ row: ["a", "b", "c"] });
  expect(withoutPhoto(full, { slot: row, at: 1 }).photos).toEqual({ row: ["a", "c"] });
  expect(moved(full, { slot: row, at: 0 }, 1).photos).toEqual({ row: ["b", "a", "c"] });
  expect(moved(full, { slot: row, at: 2 }, -2).photos).toEqual({ row: ["c", "a", "b"] });
  expect(moved(full, { slot: row, at: 2 }, 1)).toBe(full);
  expect(moved(full, { slot: row, at: 0 }, -1)).toBe(full);
  expect(moved(full, { slot: row, at: 7 }, -1)).toBe(full);
});

test("room is where photos are needed first, then where they may be", () => {
  const some = plan(things, one, row);
  const places = roomFor(some, having({ row: ["a"] })).map((at) => [at.slot.name, at.at]);
  expect(places).toEqual([
    ["one", 0],
    ["row", 1],
    ["things", 0],
    ["row", 2],
  ]);
});

test("photos that are poured in find room in that order, and take no one's place", () => {
  const some = plan(things, one);
  const filled = ["a", "b", "c"].reduce((now, id) => poured(some, now, id), NOTHING);
  expect(filled.photos).toEqual({ one: ["a"], things: ["b"] });
});

test("choosing goes on while one is needed, then within a row, then ends", () => {
  const some = plan(one, things, row);
  const next = (photos: Filling["photos"], at: typeof one) =>
    nextPlace(some, having(photos), { slot: at, at: 0 })?.slot.name;
  expect(next({ one: ["a"] }, one)).toBe("row");
  expect(next({ one: ["a"], row: ["b"] }, row)).toBe("row");
  expect(next({ one: ["a"], row: ["b", "c"] }, row)).toBe("row");
  expect(next({ one: ["a"], row: ["b", "c", "d"] }, row)).toBeUndefined();
  expect(next({ one: ["a"], row: ["b", "c"] }, one)).toBeUndefined();
});

test("two photos change places, a row turns round, one alone stays", () => {
  const pair = plan(one, things);
  const both = having({ one: ["a"], things: ["b"] });
  expect(exchanged(pair, both).photos).toEqual({ one: ["b"], things: ["a"] });
  expect(exchangeable(pair, having({ one: ["a"] }))).toEqual([]);
  expect(exchanged(pair, having({ one: ["a"] })).photos).toEqual({ one: ["a"] });
  const many = having({ one: ["z"], row: ["a", "b", "c"] });
  expect(exchanged(plan(one, row), many).photos).toEqual({ one: ["z"], row: ["c", "b", "a"] });
});

test("a sentence is cut at the slots that there are", () => {
  const said = { ...plan(one), sentence: "{one} in {two}, at last" };
  expect(piecesOf(said)).toEqual([
    { text: "oNE", slot: "one" },
    { text: " in ", slot: null },
    { text: "{two}", slot: null },
    { text: ", at last", slot: null },
  ]);
});

test("sheets are said by lengths for print and by pixels for screens", () => {
  expect(saySheet(2835, 3780, 240)).toBe("for printing, 30 × 40 cm at 240 ppi, upright");
  expect(saySheet(2000, 2000, 72)).toBe("for a screen, 2000 × 2000 px, square");
  expect(saySheet(400, 200, 200)).toBe("for printing, 5.1 × 2.5 cm at 200 ppi, on its side");
});

test("small numbers are words", () => {
  expect([0, 3, 17, 20, 21, -1].map(sayNumber)).toEqual([
    "no",
    "three",
    "seventeen",
    "twenty",
    "21",
    "-1",
  ]);
});
