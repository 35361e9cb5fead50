/** What the arrow keys mean: which way. */

const WAYS: Readonly<Record<string, readonly [x: number, y: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Return which way a key points; undefined for all but arrows. */
export const wayOf = (key: string): readonly [x: number, y: number] | undefined => WAYS[key];
