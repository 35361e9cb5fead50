/** Many pictures by one plan: a row each, with photos of its own. */

import type { components } from "@generated/schema";
import type { Answered } from "@/model/composite";
import type { FileSettings } from "@/model/finishing";
import type { Filling, PlanOffer } from "@/model/plans";

type Schemas = components["schemas"];

export type TableLine = Answered<Schemas["TableLine"]> & {
  readonly files: Readonly<Record<string, readonly string[]>>;
  readonly words: Readonly<Record<string, string>>;
  readonly choices: Readonly<Record<string, string>>;
};
export type Batch = Answered<Schemas["Batch"]>;
export type BatchItem = Batch["items"][number];

export interface NewBatch {
  readonly id: string;
  readonly items: readonly { readonly name: string; readonly filling: Filling }[];
  readonly keep: Batch["keep"];
  readonly settings: FileSettings | null;
}

/** A picture that is on the shelf, or comes to it. */
interface Known {
  readonly id: string;
  readonly name: string;
}

/** One picture that is to be made. */
export interface Row {
  readonly key: string;
  readonly name: string;
  /** By slots; pictures that are here. */
  readonly photos: Readonly<Record<string, readonly string[]>>;
  /** By slots; names of files that a table speaks of. */
  readonly files: Readonly<Record<string, readonly string[]>>;
  readonly words: Readonly<Record<string, string>>;
  readonly choices: Readonly<Record<string, string>>;
}

export function rowOfPhoto(key: string, slot: string, photo: Known): Row {
  const { id, name } = photo;
  return { key, name, photos: { [slot]: [id] }, files: {}, words: {}, choices: {} };
}

export function rowOfLine(key: string, line: TableLine): Row {
  const first = Object.values(line.files).flat()[0];
  const name = line.name ?? (first === undefined ? `Row ${line.number}` : nameOfFile(first));
  const { files, words, choices } = line;
  return { key, name: name.slice(0, LONGEST_NAME), photos: {}, files, words, choices };
}

const LONGEST_NAME = 80;

/** Return how a picture is called that is brought in from a file: as the service does. */
export function nameOfFile(file: string): string {
  const base = file.split(/[\\/]/).at(-1) ?? "";
  const stem = base.startsWith(".") ? base.slice(1) : base.replace(/\.[^.]*$/, "");
  const words = stem.replace(/[_\-\s]+/g, " ").trim();
  return (words.charAt(0).toUpperCase() + words.slice(1)).slice(0, LONGEST_NAME);
}

/** Tell whether rows of a table speak of a picture, which is then no row of its own. */
export function isNamedIn(rows: readonly Row[], { name }: Pick<Known, "name">): boolean {
  const files = rows.flatMap((row) => Object.values(row.files).flat());
  return files.some((file) => nameOfFile(file).toLowerCase() === name.toLowerCase());
}

/** A row with its photos found, or the names of files that are not here. */
export interface Resolved {
  readonly row: Row;
  readonly filling: Filling;
  readonly missing: readonly string[];
}

/** Find a row's photos among those that are here; all else is as the plan is filled. */
export function resolved(row: Row, common: Filling, here: readonly Known[]): Resolved {
  const ids = new Map([...here].reverse().map(({ id, name }) => [name.toLowerCase(), id]));
  const find = (file: string) => ids.get(nameOfFile(file).toLowerCase());
  const files = Object.entries(row.files);
  const found = files.map(([slot, names]) => [
    slot,
    names.flatMap((file) => {
      const id = find(file);
      return id === undefined ? [] : [id];
    }),
  ]);
  return {
    row,
    filling: {
      photos: { ...common.photos, ...row.photos, ...Object.fromEntries(found) },
      words: { ...common.words, ...row.words },
      choices: { ...common.choices, ...row.choices },
    },
    missing: files.flatMap(([, names]) => names.filter((file) => find(file) === undefined)),
  };
}

/** Return slots that a picture of a row would still lack. */
export function lackingIn(plan: PlanOffer, { filling }: Resolved): readonly string[] {
  return plan.slots
    .filter(({ name, needed, least }) => needed && (filling.photos[name]?.length ?? 0) < least)
    .map(({ title }) => title);
}

/** Say how a batch stands. */
export function sayBatch({ job, count, made, failed, doubtful }: Batch): string {
  const parts = [`${made} of ${count} made`];
  if (failed > 0) parts.push(`${failed} failed`);
  if (doubtful > 0) parts.push(`${doubtful} to look at`);
  const state = { paused: ", resting", cancelled: ", stopped", failed: ", cut off" }[
    job.state as string
  ];
  return parts.join(", ") + (state ?? "");
}
