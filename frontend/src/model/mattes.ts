/** Backdrops that were found: parts of a mask, and what a hand says of them. */

import { MEND, ROUGH_STROKE } from "@generated/limits";
import type { components } from "@generated/schema";
import { v4 as newId } from "uuid";
import type { Answered, Composite, Edit, Layer, MaskPart, PhotoLayer } from "@/model/composite";
import { hasColours, toPicture } from "@/model/drawing";
import { type Lying, maskLying } from "@/model/lying";
import { EMPTY_MASK, openPart } from "@/model/masks";
import type { Point } from "@/model/points";
import type { TryGroup } from "@/model/tries";

export type MattePart = Extract<MaskPart, { kind: "matte" }>;
export type Way = MattePart["way"];
export type Hints = MattePart["hints"];
export type RoughStroke = Hints["strokes"][number];
export type FoundMatte = Answered<components["schemas"]["FoundMatte"]>;
export type CutAnswer = Answered<components["schemas"]["CutAnswer"]>;

/** Whether somebody waits for it, may look at it next, or does neither. */
export type Haste = components["schemas"]["NewCut"]["haste"];

/** How a backdrop is to be found. */
export interface CutRequest {
  readonly way: Way;
  readonly hints: Hints;
  readonly network?: string | null;
}

export const NO_HINTS: Hints = { around: null, strokes: [], subject: null };
export const BY_ITSELF: CutRequest = { way: "itself", hints: NO_HINTS };

export const WAYS: readonly { readonly id: Way; readonly label: string }[] = [
  { id: "itself", label: "By itself" },
  { id: "finer", label: "Finer edges" },
  { id: "gaps", label: "Inner gaps too" },
  { id: "block", label: "As one block" },
  { id: "color", label: "All but its colour" },
];

const PREFIX = "rough-";

/** Return the line of a recipe that the first rough stroke will make a part of. */
export function roughLine(id: string): string {
  return PREFIX + id;
}

/** Return the part of a backdrop that is worked on, if one is. */
export function openMatte(layer: Layer | undefined, line: string | null): MattePart | null {
  const part = openPart(layer, line);
  if (part?.kind !== "matte" || !layer || !hasColours(layer)) return null;
  if (line !== null && part.id !== line) return null;
  return part.picture === layer.picture ? part : null;
}

/** Return the part that is the backdrop of the layer's own photo, the last of several. */
export function ownMatte(layer: Layer): MattePart | undefined {
  if (!hasColours(layer)) return undefined;
  return layer.mask?.parts.findLast(
    (part): part is MattePart => part.kind === "matte" && part.picture === layer.picture,
  );
}

/** Tell whether rough strokes are what the hand does: a found part is open, or comes. */
export function isRough(layer: Layer | undefined, line: string | null): boolean {
  if (!layer || !hasColours(layer)) return false;
  return line?.startsWith(PREFIX) || openMatte(layer, line) !== null;
}

/** Return a part of what was found: another state of `before`, or a new one. */
export function matteOf(
  composite: Composite,
  layer: PhotoLayer,
  found: FoundMatte,
  request: CutRequest,
  before: MattePart | null,
): MattePart {
  const { matte, level } = found;
  const { way, hints, network = null } = request;
  if (before) return { ...before, matte, level, way, hints, network };
  const lying = maskLying(composite, layer, layer.mask ?? EMPTY_MASK);
  return {
    ...{ id: newId(), kind: "matte", join: "take", inverted: false, works: true },
    picture: layer.picture,
    to_picture: toPicture(composite, layer, lying),
    ...{ matte, level, way, hints, network },
  };
}

/** Return the edit that puts a found part in, or in the place of the one it was. */
export function cutOutEdit(layer: Layer, part: MattePart): Edit {
  return { kind: "cut_out", layer_id: layer.id, part };
}

/** Return where the pixels of a photo lie on the canvas, and back. */
export function pictureLying(composite: Composite, layer: PhotoLayer): Lying {
  return maskLying(composite, { ...layer, mask: null }, EMPTY_MASK);
}

/** Return a rough stroke through points of the canvas. */
export function roughStroke(
  lying: Lying,
  points: readonly Point[],
  size: number,
  keeps: boolean,
): RoughStroke {
  return { keeps, size: ownSize(lying, points[0] ?? ORIGIN, size), points: owned(lying, points) };
}

/** Return points of the canvas in a photo's pixels. */
export function owned(lying: Lying, points: readonly Point[]): [number, number][] {
  return points.map((at) => {
    const { x, y } = lying.fromCanvas(at);
    return [held(x), held(y)];
  });
}

const ORIGIN: Point = { x: 0, y: 0 };
/** The service takes no points farther away. */
const { minimum, maximum } = MEND.points.each.each;

function held(position: number): number {
  return Math.round(Math.min(Math.max(position, minimum), maximum) * 10) / 10;
}

export function ownSize(lying: Lying, at: Point, size: number): number {
  const [from, to] = [lying.fromCanvas(at), lying.fromCanvas({ x: at.x + size, y: at.y })];
  const wide = Math.hypot(to.x - from.x, to.y - from.y);
  return Math.min(Math.max(Math.round(wide * 10) / 10, 0.1), ROUGH_STROKE.size.maximum);
}

/** Return hints with one more stroke; beyond the limit the oldest goes. */
export function withStroke(hints: Hints, stroke: RoughStroke, most: number): Hints {
  return { ...hints, strokes: [...hints.strokes, stroke].slice(-most) };
}

/** A network that finds subjects, as the service names it. */
export interface Network {
  readonly name: string;
  readonly title: string;
}

const USUAL: ReadonlySet<string> = new Set(["large", "light"]);

/** Return the networks that somebody added. */
export function ownNetworks(networks: readonly Network[]): readonly Network[] {
  return networks.filter(({ name }) => !USUAL.has(name));
}

/** Say what is missing for finding subjects, if anything is. */
export function missingWords(networks: readonly Network[]): string | null {
  if (networks.length === 0) {
    return "The networks that find subjects are not there: start Glyphaneme where it can fetch them.";
  }
  if (networks.some(({ name }) => name === "large")) return null;
  return "Only the small network could be fetched: edges are coarser than they could be.";
}

/** What was found in each way, by the key of what was asked for. */
export type Found = Readonly<Record<string, FoundMatte>>;

export function askedKey(request: CutRequest): string {
  return JSON.stringify([request.way, request.hints, request.network ?? null]);
}

/** Return what the try strip has ready: each way, with what was said so far. */
export function requestsFor(
  part: MattePart | null,
  found: Found,
  networks: readonly Network[],
): readonly TitledRequest[] {
  const said = part?.hints ?? NO_HINTS;
  const isSaid = said.around !== null || said.strokes.length > 0;
  // Which of several is chosen anew each time; what a hand said stays.
  const hints = isSaid ? said : NO_HINTS;
  const others = ownNetworks(networks).map(({ name, title }) => ({
    title: `By “${title}”`,
    request: { way: "itself" as const, hints, network: name },
  }));
  const usual = WAYS.map(({ id, label }) => ({ title: label, request: { way: id, hints } }));
  const ways: TitledRequest[] = [...usual, ...others];
  if (isSaid) return ways;
  const subjects = found[askedKey(BY_ITSELF)]?.subjects ?? 0;
  const each = Array.from({ length: subjects }, (_, at) => ({
    title: SUBJECTS[at] ?? `Only number ${at + 1}`,
    request: { way: "itself" as const, hints: { ...NO_HINTS, subject: at } },
    isSubject: true,
  }));
  return [...ways, ...each];
}

const SUBJECTS = ["Only the largest", "Only the second", "Only the third", "Only the fourth"];

export interface TitledRequest {
  readonly title: string;
  readonly request: CutRequest;
  /** Whether it is one of several subjects for itself. */
  readonly isSubject?: boolean;
}

/** Return what can be tried by now: the ways whose mattes were found. */
export function cutTries(
  composite: Composite,
  layer: PhotoLayer,
  part: MattePart | null,
  found: Found,
  networks: readonly Network[],
): TryGroup[] {
  const tries = requestsFor(part, found, networks).flatMap(({ title, request, isSubject }) => {
    const matte = found[askedKey(request)];
    if (!matte) return [];
    const tried = matteOf(composite, layer, matte, request, part);
    const isChosen =
      part?.matte === matte.matte &&
      part.way === request.way &&
      part.network === (request.network ?? null);
    return [{ title, edit: cutOutEdit(layer, tried), isChosen, isSubject }];
  });
  const ways = tries.filter((one) => !one.isSubject);
  const subjects = tries.filter((one) => one.isSubject);
  return [
    { title: "Without its backdrop, found in different ways", tries: ways },
    ...(subjects.length > 0 ? [{ title: "One of several", tries: subjects }] : []),
  ];
}
