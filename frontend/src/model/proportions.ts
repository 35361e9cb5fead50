/** Proportions that frames and sheets can be kept in, width by height. */

export const FREELY = "freely";
/** That of the photo which is cropped, or of the sheet as it is. */
export const ITS_OWN = "in its own";
export const THE_SHEETS = "as the sheet";

const FIXED: Readonly<Record<string, number>> = {
  square: 1,
  "3 : 2": 3 / 2,
  "4 : 3": 4 / 3,
  "16 : 9": 16 / 9,
  "2 : 3": 2 / 3,
  "3 : 4": 3 / 4,
  "4 : 5": 4 / 5,
  "9 : 16": 9 / 16,
};

/** Names of those that are the same for all. */
export const FIXED_NAMES: readonly string[] = Object.keys(FIXED);

interface Sized {
  readonly width: number;
  readonly height: number;
}

/** Return a proportion by its name; null where each side is pulled by itself. */
export function proportionOf(name: string, own: Sized, sheet: Sized): number | null {
  if (name === ITS_OWN) return own.width / own.height;
  if (name === THE_SHEETS) return sheet.width / sheet.height;
  return FIXED[name] ?? null;
}

/** Names as words to choose from. */
export function named(names: readonly string[]) {
  return names.map((name) => ({ id: name, label: name }));
}
