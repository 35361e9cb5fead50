/** What lies on the history ruler, and where. */

import type { components } from "@generated/schema";

type History = components["schemas"]["History"];
type Way = components["schemas"]["Way"];

/** More ticks than this would run into one another; then only some are drawn. */
const MOST_MARKS = 90;

/** Return a history whose way is known up to where an answer goes on. */
export function joinedHistory(known: History | undefined, answer: History): History {
  const { follows, names } = answer;
  if (!known || !follows) return answer;
  const begins = known.ticks.findIndex((tick) => tick.id === follows) + 1;
  const called = new Map(names.map(({ id, name }) => [id, name]));
  const before = known.ticks.slice(0, begins).map((tick) => {
    const name = called.get(tick.id) ?? null;
    return tick.name === name ? tick : { ...tick, name };
  });
  return { ...answer, follows: null, ticks: [...before, ...answer.ticks] };
}

/** Return which of so many ticks are drawn. */
export function marksOf(ticks: number): number[] {
  const every = Math.ceil(ticks / MOST_MARKS);
  return Array.from({ length: Math.ceil(ticks / every) }, (_, mark) => mark * every);
}

/** Return the tick that lies nearest to a place on the screen. */
export function tickAt(
  x: number,
  ruler: { readonly left: number; readonly width: number },
  ticks: number,
): number {
  const share = Math.min(1, Math.max(0, (x - ruler.left) / Math.max(1, ruler.width)));
  return Math.round(share * Math.max(0, ticks - 1));
}

export interface Fork {
  readonly tick: number;
  /** Newest first. */
  readonly ways: readonly Way[];
}

/** Return the ticks at which other ways leave this one. */
export function forksOf({ ticks, other_ways }: Pick<History, "ticks" | "other_ways">): Fork[] {
  const forks = new Map<number, Way[]>();
  const places = new Map(ticks.map((tick, place) => [tick.id, place]));
  for (const way of other_ways) {
    const place = places.get(way.leaves_at) ?? 0;
    forks.set(place, [...(forks.get(place) ?? []), way]);
  }
  return [...forks].map(([tick, ways]) => ({ tick, ways }));
}
