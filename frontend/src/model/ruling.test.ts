import type { components } from "@generated/schema";
import { expect, test } from "vitest";
import { forksOf, marksOf, tickAt } from "@/model/ruling";

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
