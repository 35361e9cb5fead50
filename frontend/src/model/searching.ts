/** Searching by words, the same on the wall, the shelf and in the library. */

/**
 * Tell whether what something is called fits what is looked for: each word that was
 * typed begins one of its own, in any order, whatever accents and capitals they have.
 */
export function isFound(wanted: string, called: readonly string[]): boolean {
  const words = called.flatMap(wordsOf);
  return wordsOf(wanted).every((typed) => words.some((word) => word.startsWith(typed)));
}

function wordsOf(text: string): string[] {
  const plain = text.normalize("NFKD").replace(/\p{Mark}/gu, "");
  return plain
    .toLowerCase()
    .split(/[^\p{Letter}\p{Number}]+/u)
    .filter(Boolean);
}
