import { expect, test } from "vitest";
import {
  type Batch,
  isNamedIn,
  lackingIn,
  nameOfFile,
  type Resolved,
  resolved,
  rowOfLine,
  rowOfPhoto,
  sayBatch,
} from "@/model/many";
import { NOTHING, type PlanOffer } from "@/model/plans";

const line = { number: 4, name: null, files: {}, words: {}, choices: {} };
const here = [
  { id: "h", name: "Soft hills" },
  { id: "w", name: "Wood" },
  { id: "old", name: "Wood" },
];

test("files are called as the service calls pictures", () => {
  expect(nameOfFile("cards/soft-hills_2.png")).toBe("Soft hills 2");
  expect(nameOfFile("C:\\photos\\a.b.jpg")).toBe("A.b");
  expect(nameOfFile(".hidden")).toBe("Hidden");
  expect(nameOfFile("灯.png")).toBe("灯");
});

test("rows of a table are called as it says, by their photo, or by their number", () => {
  const files = { photo: ["soft-hills.png"] };
  expect(rowOfLine("k", { ...line, name: "Anna", files }).name).toBe("Anna");
  expect(rowOfLine("k", { ...line, files }).name).toBe("Soft hills");
  expect(rowOfLine("k", line).name).toBe("Row 4");
  expect(rowOfLine("k", { ...line, name: "x".repeat(99) }).name).toHaveLength(80);
});

test("a row's photos are found by their names, the newest of two alike", () => {
  const row = rowOfLine("k", { ...line, files: { photo: ["SOFT-hills.jpg"], more: ["wood.png"] } });
  const found = resolved(row, NOTHING, here);
  expect(found.filling.photos).toEqual({ photo: ["h"], more: ["w"] });
  expect(found.missing).toEqual([]);
});

test("what a row does not say is as the plan is filled", () => {
  const common = {
    photos: { photo: ["p"], place: ["q"] },
    words: { greeting: "Hi", below: "There" },
    choices: { way: "down" },
  };
  const row = rowOfLine("k", { ...line, words: { greeting: "Ahoy" } });
  expect(resolved(row, common, here).filling).toEqual({
    ...common,
    words: { greeting: "Ahoy", below: "There" },
  });
  const photo = rowOfPhoto("k", "photo", { id: "h", name: "Soft hills" });
  expect(resolved(photo, common, here).filling.photos).toEqual({ photo: ["h"], place: ["q"] });
});

test("files that are not here are told, and found once they are", () => {
  const row = rowOfLine("k", { ...line, files: { photo: ["gone.png", "wood.png"] } });
  expect(resolved(row, NOTHING, here).missing).toEqual(["gone.png"]);
  expect(resolved(row, NOTHING, [...here, { id: "g", name: "Gone" }]).missing).toEqual([]);
});

test("a photo that a table speaks of is no row of its own", () => {
  const rows = [rowOfLine("k", { ...line, files: { photo: ["soft-hills.png"] } })];
  expect(isNamedIn(rows, { name: "Soft Hills" })).toBe(true);
  expect(isNamedIn(rows, { name: "Wood" })).toBe(false);
});

test("a row lacks what is needed and not there", () => {
  const slots = [
    { name: "photo", title: "A photo", needed: true, least: 1 },
    { name: "more", title: "More", needed: false, least: 1 },
  ];
  const plan = { slots } as unknown as PlanOffer;
  const row = { filling: NOTHING } as Resolved;
  expect(lackingIn(plan, row)).toEqual(["A photo"]);
  const full = { filling: { ...NOTHING, photos: { photo: ["h"] } } } as unknown as Resolved;
  expect(lackingIn(plan, full)).toEqual([]);
});

test("a batch says what was made, what failed and what is to be looked at", () => {
  const batch = (state: string, made: number, failed: number, doubtful: number) =>
    ({ job: { state }, count: 5, made, failed, doubtful }) as unknown as Batch;
  expect(sayBatch(batch("running", 2, 0, 0))).toBe("2 of 5 made");
  expect(sayBatch(batch("paused", 2, 1, 1))).toBe("2 of 5 made, 1 failed, 1 to look at, resting");
  expect(sayBatch(batch("cancelled", 0, 0, 0))).toBe("0 of 5 made, stopped");
});
