/** How a placement shapes a layer: its crop, its four corners, its bend. */

import type { Placement } from "@/model/composite";
import type { Point, Size } from "@/model/points";

export type Crop = NonNullable<Placement["crop"]>;
export type Corners = NonNullable<Placement["corners"]>;
export type Bend = NonNullable<Placement["bend"]>;
export type Corner = 0 | 1 | 2 | 3;

/** What of a photo's shape is worked on, as the open line of its Place facet. */
export type ShapingLine = "crop" | "corners" | "bend";

/** Return what of a photo's shape a line works on, if it does. */
export function shapingLine(line: string | null): ShapingLine | null {
  return line === "crop" || line === "corners" || line === "bend" ? line : null;
}

const DEGREE = Math.PI / 180;
export const CORNER_NAMES = ["top_left", "top_right", "bottom_right", "bottom_left"] as const;
const SQUARE: readonly Point[] = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];
/** Of the triangle at each corner, in frames; the service refuses thinner ones. */
const LEAST_AREA = 1e-4;
const ROUNDS = 12;
/** Points of a frame that tell how far it reaches when it is bent. */
export const PROBES: readonly Point[] = Array.from({ length: 81 }, (_, place) => ({
  x: (place % 9) / 8,
  y: Math.floor(place / 9) / 8,
}));

/** Return how large the frame is that a placement places. */
export function frameSize(placement: Placement, photo: Size): Size {
  return placement.crop ?? photo;
}

/** Map a position in a photo to its frame, in shares of that: 0..1. */
export function toFrame(placement: Placement, photo: Size, at: Point): Point {
  const { crop } = placement;
  if (!crop) return { x: at.x / photo.width, y: at.y / photo.height };
  const turned = rotated({ x: at.x - crop.x, y: at.y - crop.y }, crop.turn);
  return {
    x: (turned.x * crop.zoom) / crop.width + 0.5,
    y: (turned.y * crop.zoom) / crop.height + 0.5,
  };
}

/** Map a position in a frame, 0..1, to the photo. */
export function fromFrame(placement: Placement, photo: Size, at: Point): Point {
  const { crop } = placement;
  if (!crop) return { x: at.x * photo.width, y: at.y * photo.height };
  const inside = { x: (at.x - 0.5) * crop.width, y: (at.y - 0.5) * crop.height };
  const turned = rotated(inside, -crop.turn);
  return { x: turned.x / crop.zoom + crop.x, y: turned.y / crop.zoom + crop.y };
}

/** Map a position of the straight frame to where the warped one has it, both 0..1. */
export function warped(placement: Placement, at: Point): Point {
  const { corners, bend } = placement;
  const bent = bend ? bentAt(bend, at) : at;
  return corners ? through(squareTo(cornerPoints(corners)), bent) : bent;
}

/** Map a position of the warped frame back to the straight one, both 0..1. */
export function unwarped(placement: Placement, at: Point): Point {
  const { corners, bend } = placement;
  const flat = corners ? through(inverted(squareTo(cornerPoints(corners))), at) : at;
  if (!bend) return flat;
  let found = flat;
  for (let round = 0; round < ROUNDS; round++) {
    const { x, y } = bentAt(bend, found);
    found = { x: found.x + flat.x - x, y: found.y + flat.y - y };
  }
  return found;
}

/** Return where corners lie, in frames, clockwise from the top left. */
export function cornerPoints(corners: Corners | null): readonly Point[] {
  return SQUARE.map((at, place) => {
    const [x, y] = corners?.[CORNER_NAMES[place as Corner]] ?? [0, 0];
    return { x: at.x + x, y: at.y + y };
  });
}

/** Return the corners that lie at four points, or null where they would fold. */
export function cornersAt(points: readonly Point[]): Corners | null {
  const isPlain = points.every((point, place) => {
    const next = points[(place + 1) % 4] as Point;
    const before = points[(place + 3) % 4] as Point;
    const area =
      (next.x - point.x) * (before.y - point.y) - (next.y - point.y) * (before.x - point.x);
    return area >= LEAST_AREA;
  });
  if (!isPlain) return null;
  const pull = (place: Corner): [number, number] => {
    const [at, home] = [points[place] as Point, SQUARE[place] as Point];
    return [at.x - home.x, at.y - home.y];
  };
  return { top_left: pull(0), top_right: pull(1), bottom_right: pull(2), bottom_left: pull(3) };
}

/** Return the point that is nearest, if it is no farther away than `within`. */
export function nearestRest(
  rests: readonly Point[],
  { x, y }: Point,
  within: number,
): Point | null {
  let [best, least] = [null as Point | null, within];
  for (const rest of rests) {
    const away = Math.hypot(rest.x - x, rest.y - y);
    if (away <= least) [best, least] = [rest, away];
  }
  return best;
}

/**
 * Return the placement whose frame has its corners at four points of the canvas, which
 * run clockwise from the top left; null where they would fold. It stays mirrored.
 */
export function setInto(
  placement: Placement,
  photo: Size,
  points: readonly Point[],
): Placement | null {
  const [left, right] = rangeOf(points.map(({ x }) => x));
  const [top, bottom] = rangeOf(points.map(({ y }) => y));
  const [across, down] = [right - left, bottom - top];
  if (!(across > 0 && down > 0)) return null;
  const size = frameSize(placement, photo);
  const shares = points.map(({ x, y }) => ({
    x: mirrored((x - left) / across, placement.flipped),
    y: mirrored((y - top) / down, placement.upended),
  }));
  const corners = cornersAt(MIRRORING.map((row) => shares[row(placement)] as Point));
  if (!corners) return null;
  return {
    ...placement,
    corners,
    bend: null,
    x: (left + right) / 2,
    y: (top + bottom) / 2,
    scale_x: across / size.width,
    scale_y: down / size.height,
    turn: 0,
  };
}

type Mirrored = Pick<Placement, "flipped" | "upended">;

/** Which point of the canvas each corner of a mirrored frame comes to lie on. */
const MIRRORING: readonly ((placement: Mirrored) => number)[] = [0, 1, 2, 3].map(
  (place) =>
    ({ flipped, upended }) => {
      const column = (place === 1 || place === 2) !== flipped;
      const row = place >= 2 !== upended;
      return row ? (column ? 2 : 3) : column ? 1 : 0;
    },
);

const mirrored = (share: number, isMirrored: boolean) => (isMirrored ? 1 - share : share);

function rangeOf(values: readonly number[]): [number, number] {
  return [Math.min(...values), Math.max(...values)];
}

/** Return a grid that bends nothing. */
export function flatBend(columns: number, rows: number): Bend {
  return { columns, rows, moves: Array.from({ length: columns * rows }, () => [0, 0] as const) };
}

/** Return where a grid's point lies when nothing is bent. */
export function gridPoint(bend: Bend, place: number): Point {
  return {
    x: (place % bend.columns) / (bend.columns - 1),
    y: Math.floor(place / bend.columns) / (bend.rows - 1),
  };
}

/** Return a bend with one point at a position of the unbent frame. */
export function bentTo(bend: Bend, place: number, at: Point): Bend {
  const home = gridPoint(bend, place);
  const held = (pixels: number) => Math.min(Math.max(pixels, -0.75), 0.75);
  const move = [held(at.x - home.x), held(at.y - home.y)] as const;
  return { ...bend, moves: bend.moves.map((one, other) => (other === place ? move : one)) };
}

/** Return a grid of another size that bends as this one does. */
export function regridded(bend: Bend, columns: number, rows: number): Bend {
  const grid = flatBend(columns, rows);
  const moves = grid.moves.map((_, place) => {
    const home = gridPoint(grid, place);
    const { x, y } = bentAt(bend, home);
    return [x - home.x, y - home.y] as const;
  });
  return { ...grid, moves };
}

/**
 * Return where a bend has a position: polynomials through the points of each row, and
 * then through the rows. Up to four points a side they are the service's own splines.
 */
export function bentAt(bend: Bend, { x, y }: Point): Point {
  const { columns, rows, moves } = bend;
  const [s, t] = [held01(x), held01(y)];
  let [across, down] = [0, 0];
  for (let row = 0; row < rows; row++) {
    const byRow = basis(rows, row, t);
    for (let column = 0; column < columns; column++) {
      const share = byRow * basis(columns, column, s);
      const [moveX, moveY] = moves[row * columns + column] ?? [0, 0];
      across += share * moveX;
      down += share * moveY;
    }
  }
  return { x: x + across, y: y + down };
}

/** Lagrange's polynomial that is 1 at one of evenly spaced points, and 0 at all others. */
function basis(count: number, place: number, at: number): number {
  let value = 1;
  for (let other = 0; other < count; other++) {
    if (other !== place) value *= (at * (count - 1) - other) / (place - other);
  }
  return value;
}

type Matrix = readonly [number, number, number, number, number, number, number, number, number];

/** Return the homography from the unit square onto four points. */
function squareTo(points: readonly Point[]): Matrix {
  const [a, b, c, d] = points as [Point, Point, Point, Point];
  const one = { x: b.x - c.x, y: b.y - c.y };
  const other = { x: d.x - c.x, y: d.y - c.y };
  const rest = { x: a.x - b.x + c.x - d.x, y: a.y - b.y + c.y - d.y };
  const area = one.x * other.y - one.y * other.x;
  const g = (rest.x * other.y - rest.y * other.x) / area;
  const h = (one.x * rest.y - one.y * rest.x) / area;
  return [
    b.x - a.x + g * b.x,
    d.x - a.x + h * d.x,
    a.x,
    b.y - a.y + g * b.y,
    d.y - a.y + h * d.y,
    a.y,
    g,
    h,
    1,
  ];
}

function through([a, b, c, d, e, f, g, h, i]: Matrix, { x, y }: Point): Point {
  const depth = g * x + h * y + i;
  return { x: (a * x + b * y + c) / depth, y: (d * x + e * y + f) / depth };
}

/** The inverse, but for a factor, which a homography does not feel. */
function inverted([a, b, c, d, e, f, g, h, i]: Matrix): Matrix {
  return [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ];
}

function held01(share: number): number {
  return Math.min(Math.max(share, 0), 1);
}

function rotated(point: Point, degrees: number): Point {
  const cosine = Math.cos(degrees * DEGREE);
  const sine = Math.sin(degrees * DEGREE);
  return { x: point.x * cosine - point.y * sine, y: point.x * sine + point.y * cosine };
}
