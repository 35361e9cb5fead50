import type { components } from "@generated/schema";
import { expect, test } from "vitest";
import { forksOf, joinedHistory, marksOf, tickAt } from "@/model/ruling";

type Tick = components["schemas"]["Tick"];
type Way = components["schemas"]["Way"];

const tick = (id: string): Tick => ({ id, label: id, at: "2026-03-01T10:00:00Z", name: null });
const way = (id: string, leaves_at: string): Way => ({ ...tick(id), leaves_at, edits: 1 });

test("few ticks are all drawn, many only so far that they stay apart", () => {
  expect(marksOf(3)).toEqual([0, 1, 2]);
  expect(marksOf(90)).toHaveLength(90);
  expect(marksOf(91)).toHaveLength(46);
  expect(marksOf(10_000).length).toBeLessThanOrEqual(90);
});

test.each([
  [100, 0],
  [149, 0],
  [151, 1],
  [300, 2],
  [40, 0],
  [900, 2],
])("at %d the nearest of three ticks is %d", (x, expected) => {
  expect(tickAt(x, { left: 100, width: 200 }, 3)).toBe(expected);
});

test("one tick is the nearest anywhere", () => {
  expect(tickAt(50, { left: 0, width: 0 }, 1)).toBe(0);
});

test("ways that leave at one place share a fork, in their order", () => {
  const ways = [way("x", "b"), way("y", "a"), way("z", "b")];

  const forks = forksOf({ ticks: [tick("a"), tick("b"), tick("c")], other_ways: ways });

  expect(forks).toEqual([
    { tick: 1, ways: [ways[0], ways[2]] },
    { tick: 0, ways: [ways[1]] },
  ]);
});

const history = (ids: string, follows: string | null, names: Record<string, string> = {}) => ({
  head: "x",
  follows,
  ticks: [...ids].map(tick),
  other_ways: [],
  names: Object.entries(names).map(([id, name]) => ({ id, name })),
});

test("what is new is joined to what was known, with the names of now", () => {
  const known = history("abc", null, { a: "Old" });
  const joined = joinedHistory(known, history("de", "b", { b: "Wide" }));

  expect(joined.ticks.map(({ id, name }) => name ?? id)).toEqual(["a", "Wide", "d", "e"]);
  expect(joined.ticks[0]).toBe(known.ticks[0]);
  expect(joinedHistory(joined, history("", "e")).ticks.map(({ name }) => name)).toEqual(
    new Array(4).fill(null),
  );
});

test("a history that comes whole takes the place of what was known", () => {
  const whole = history("xyz", null);

  expect(joinedHistory(history("abc", null), whole)).toBe(whole);
  expect(joinedHistory(undefined, whole)).toBe(whole);
});
