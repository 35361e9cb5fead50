/** Where a layer that is moved comes to rest: on edges, middles and equal gaps of others. */

import type { Layer } from "@/model/composite";
import { isPlaced, type PlacedLayer, type WordsLayer } from "@/model/composite";
import { cornersOf, planeToCanvas, toCanvas } from "@/model/geometry";
import type { Point, Size } from "@/model/points";
import { PROBES, warped } from "@/model/shaping";

export interface Bounds {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** A short tick: where something lies on one line with something else. */
export interface Tick {
  /** Across a line that runs down (`x`), or one that runs across (`y`). */
  readonly axis: "x" | "y";
  readonly at: number;
  /** Where on the line. */
  readonly along: readonly number[];
}

/** A gap that is as wide as another one, or simply how far the next layer is. */
export interface Gap {
  readonly axis: "x" | "y";
  readonly from: number;
  readonly to: number;
  readonly along: number;
  readonly isEqual: boolean;
}

export interface Snap {
  /** What to add to where the hand has it. */
  readonly x: number;
  readonly y: number;
  readonly ticks: readonly Tick[];
  readonly gaps: readonly Gap[];
}

/** Return what a layer reaches over where it lies. */
export function boundsOf(layer: PlacedLayer): Bounds {
  const letters = layer.kind === "words" ? lettersOf(layer) : null;
  return letters ?? frameBounds(layer);
}

/** From the height of capitals to the last baseline, which is what one sees of words. */
function lettersOf(layer: WordsLayer): Bounds | null {
  const { placement, measure, words } = layer;
  const last = measure.baselines.at(-1);
  const [first] = measure.baselines;
  const isWarped = placement.corners !== null || placement.bend !== null;
  if (isWarped || words.panel || first === undefined || last === undefined) return null;
  const [left, , right] = measure.block;
  const corners = [
    { x: left, y: first - measure.capital },
    { x: right, y: first - measure.capital },
    { x: right, y: last },
    { x: left, y: last },
  ];
  return boundsRound(corners.map((at) => toCanvas(layer, at)));
}

/** Return what the frame of a layer reaches over. */
export function frameBounds(layer: PlacedLayer): Bounds {
  const { placement } = layer;
  const points = placement.bend
    ? PROBES.map((at) => planeToCanvas(layer, warped(placement, at)))
    : cornersOf(layer);
  return boundsRound(points);
}

export function boundsRound(points: readonly Point[]): Bounds {
  const across = points.map(({ x }) => x);
  const down = points.map(({ y }) => y);
  return {
    left: Math.min(...across),
    top: Math.min(...down),
    right: Math.max(...across),
    bottom: Math.max(...down),
  };
}

/** Return what several reach over together. */
export function unionOf(all: readonly Bounds[]): Bounds {
  return boundsRound(
    all.flatMap(({ left, top, right, bottom }) => [
      { x: left, y: top },
      { x: right, y: bottom },
    ]),
  );
}

/** Return the bounds of all visible layers but those that are moved. */
export function boundsBeside(layers: readonly Layer[], moved: ReadonlySet<string>): Bounds[] {
  return layers
    .filter(isPlaced)
    .filter((layer) => layer.visible && !moved.has(layer.id))
    .map(boundsOf);
}

/**
 * Return how far from where the hand has them bounds come to rest, within a reach, and
 * what they lie on one line with there.
 */
export function snapped(
  moving: Bounds,
  others: readonly Bounds[],
  canvas: Size,
  reach: number,
): Snap {
  const sheet = { left: 0, top: 0, right: canvas.width, bottom: canvas.height };
  const x = along("x", moving, others, sheet, reach);
  const y = along("y", moving, others, sheet, reach);
  const at = moved(moving, x, y);
  return {
    x,
    y,
    ticks: [...ticksOn("x", at, [sheet, ...others]), ...ticksOn("y", at, [sheet, ...others])],
    gaps: [...gapsRound("x", at, others), ...gapsRound("y", at, others)],
  };
}

type Axis = "x" | "y";

const NEARLY = 0.01;
const SHARES = [0, 0.5, 1] as const;

function low(axis: Axis, bounds: Bounds): number {
  return axis === "x" ? bounds.left : bounds.top;
}

function high(axis: Axis, bounds: Bounds): number {
  return axis === "x" ? bounds.right : bounds.bottom;
}

function lines(axis: Axis, bounds: Bounds): number[] {
  const [from, to] = [low(axis, bounds), high(axis, bounds)];
  return SHARES.map((share) => from + share * (to - from));
}

/** Return the least move along an axis to a line or an equal gap within reach; 0 for none. */
function along(
  axis: Axis,
  moving: Bounds,
  others: readonly Bounds[],
  sheet: Bounds,
  reach: number,
): number {
  const own = lines(axis, moving);
  const toLines = [sheet, ...others].flatMap((one) =>
    lines(axis, one).flatMap((line) => own.map((mine) => line - mine)),
  );
  const [from, to] = [low(axis, moving), high(axis, moving)];
  const toGaps = gapPlaces(axis, to - from, inRow(axis, moving, others)).map((at) => at - from);
  const least = [...toLines, ...toGaps].reduce(
    (best, move) => (Math.abs(move) < Math.abs(best) ? move : best),
    Number.POSITIVE_INFINITY,
  );
  return Math.abs(least) <= reach ? least : 0;
}

/** Where something would begin to leave gaps as wide as others in its row. */
function gapPlaces(axis: Axis, size: number, row: readonly Bounds[]): number[] {
  return row.slice(1).flatMap((next, place) => {
    const before = row[place] as Bounds;
    const [end, begin] = [high(axis, before), low(axis, next)];
    const gap = begin - end;
    if (gap < 0) return [];
    const between = gap >= size ? [end + (gap - size) / 2] : [];
    return [...between, high(axis, next) + gap, low(axis, before) - gap - size];
  });
}

/** Those that lie beside something along an axis, in order. */
function inRow(axis: Axis, moving: Bounds, others: readonly Bounds[]): readonly Bounds[] {
  const across = axis === "x" ? "y" : "x";
  return others
    .filter(
      (one) => low(across, one) < high(across, moving) && high(across, one) > low(across, moving),
    )
    .toSorted((one, other) => low(axis, one) - low(axis, other));
}

function ticksOn(axis: Axis, at: Bounds, others: readonly Bounds[]): Tick[] {
  const across = axis === "x" ? "y" : "x";
  return lines(axis, at).flatMap((line) => {
    const met = others.filter((one) =>
      lines(axis, one).some((other) => Math.abs(other - line) < NEARLY),
    );
    if (met.length === 0) return [];
    const ends = [at, ...met].flatMap((one) => [low(across, one), high(across, one)]);
    return [{ axis, at: line, along: [...new Set(ends)] }];
  });
}

/** The gaps to the nearest on either side, and all others in the row that are as wide. */
function gapsRound(axis: Axis, at: Bounds, others: readonly Bounds[]): Gap[] {
  const across = axis === "x" ? "y" : "x";
  const row = inRow(axis, at, others);
  const before = row.filter((one) => high(axis, one) <= low(axis, at) + NEARLY).at(-1);
  const after = row.find((one) => low(axis, one) >= high(axis, at) - NEARLY);
  const gap = (from: Bounds, to: Bounds): Gap => ({
    axis,
    from: high(axis, from),
    to: low(axis, to),
    along:
      (Math.max(low(across, from), low(across, to)) +
        Math.min(high(across, from), high(across, to))) /
      2,
    isEqual: false,
  });
  const own = [...(before ? [gap(before, at)] : []), ...(after ? [gap(at, after)] : [])];
  const widths = own.map((one) => one.to - one.from);
  const beside = row
    .slice(1)
    .map((next, place) => gap(row[place] as Bounds, next))
    .filter((one) => widths.some((width) => isAlike(width, one.to - one.from)));
  const all = [...own, ...beside].filter((one) => one.to > one.from + NEARLY);
  return all.map((one) => ({
    ...one,
    isEqual: all.some(
      (other) => other !== one && isAlike(other.to - other.from, one.to - one.from),
    ),
  }));
}

function isAlike(one: number, other: number): boolean {
  return Math.abs(one - other) < NEARLY;
}

function moved(bounds: Bounds, x: number, y: number): Bounds {
  return {
    left: bounds.left + x,
    right: bounds.right + x,
    top: bounds.top + y,
    bottom: bounds.bottom + y,
  };
}
