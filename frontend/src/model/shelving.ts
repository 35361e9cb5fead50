/** The shelf's pictures in sets: by the day on which they came, or where they are used. */

import type { components } from "@generated/schema";
import { isFound } from "@/model/searching";
import { sayDay } from "@/model/wording";

type Picture = components["schemas"]["Picture"];

export type Sorting = "day" | "project";

export interface PictureSet {
  readonly id: string;
  readonly title: string;
  readonly pictures: readonly Picture[];
}

export const UNUSED = "in no picture yet";

/** Return those of the shelf that fit what is looked for, by name or by where they are used. */
export function foundOn(shelf: readonly Picture[], wanted: string): Picture[] {
  return shelf.filter(({ name, used_in }) =>
    isFound(wanted, [name, ...used_in.map((use) => use.name)]),
  );
}

/**
 * Return pictures in sets. By day they are those that were brought in, the last day
 * first; by project each project has those that it shows, the library's too, and what
 * no project shows comes last.
 */
export function setsOf(
  pictures: readonly Picture[],
  sorting: Sorting,
  now: Date = new Date(),
): PictureSet[] {
  const sets = new Map<string, PictureSet & { readonly pictures: Picture[] }>();
  for (const picture of pictures) {
    for (const { id, title } of sorting === "day" ? dayOf(picture, now) : usesOf(picture)) {
      const set = sets.get(id) ?? { id, title, pictures: [] };
      set.pictures.push(picture);
      sets.set(id, set);
    }
  }
  const unused = sets.get(UNUSED);
  sets.delete(UNUSED);
  return [...sets.values(), ...(unused ? [unused] : [])];
}

type Place = Pick<PictureSet, "id" | "title">;

function dayOf({ on_shelf, created_at }: Picture, now: Date): Place[] {
  const day = sayDay(created_at, now);
  return on_shelf ? [{ id: day, title: day }] : [];
}

function usesOf({ on_shelf, used_in }: Picture): Place[] {
  if (used_in.length > 0) return used_in.map(({ id, name }) => ({ id, title: name }));
  return on_shelf ? [{ id: UNUSED, title: UNUSED }] : [];
}
