/** What is put into a plan: photos in slots, words, and what is chosen. */

import type { components } from "@generated/schema";
import type { Answered } from "@/model/composite";

type Schemas = components["schemas"];

export type PlanOffer = Answered<Schemas["PlanOffer"]>;
export type PlanSlot = PlanOffer["slots"][number];
export type PlanLook = Answered<Schemas["PlanLook"]>;
export type Checklist = Answered<Schemas["Checklist"]>;

export interface Filling {
  readonly photos: Readonly<Record<string, readonly string[]>>;
  readonly words: Readonly<Record<string, string>>;
  readonly choices: Readonly<Record<string, string>>;
}

export const NOTHING: Filling = { photos: {}, words: {}, choices: {} };

/** A photo in a slot, or where one may come. */
export interface Place {
  readonly slot: PlanSlot;
  readonly at: number;
}

export function photosIn(filling: Filling, slot: string): readonly string[] {
  return filling.photos[slot] ?? [];
}

/** Return where a photo goes that comes later: of several, each after those that came. */
export function placeNow(filling: Filling, { slot, at }: Place): Place {
  return { slot, at: slot.most > 1 ? photosIn(filling, slot.name).length : at };
}

/** Put a photo into a slot: in another one's place, or after all that are there. */
export function withPhoto(filling: Filling, { slot, at }: Place, picture: string): Filling {
  const photos = [...photosIn(filling, slot.name)];
  photos[Math.min(at, photos.length)] = picture;
  return { ...filling, photos: { ...filling.photos, [slot.name]: photos.slice(0, slot.most) } };
}

export function withoutPhoto(filling: Filling, { slot, at }: Place): Filling {
  const photos = photosIn(filling, slot.name).filter((_, place) => place !== at);
  return { ...filling, photos: { ...filling.photos, [slot.name]: photos } };
}

/** Move a photo among those of its slot, by so many places. */
export function moved(filling: Filling, { slot, at }: Place, by: number): Filling {
  const photos = [...photosIn(filling, slot.name)];
  const to = at + by;
  const [picture] = photos.splice(at, 1);
  if (picture === undefined || to < 0 || to > photos.length) return filling;
  photos.splice(to, 0, picture);
  return { ...filling, photos: { ...filling.photos, [slot.name]: photos } };
}

/** Return where photos still find room, those places first that a picture cannot do without. */
export function roomFor(plan: PlanOffer, filling: Filling): readonly Place[] {
  const free = plan.slots.flatMap((slot) => {
    const taken = photosIn(filling, slot.name).length;
    return Array.from({ length: slot.most - taken }, (_, more) => ({
      place: { slot, at: taken + more },
      urgency: slot.needed && taken + more < slot.least ? 0 : 1,
    }));
  });
  return free.sort((one, other) => one.urgency - other.urgency).map(({ place }) => place);
}

/** Return where the next photo is wanted once one took its place; null where none is. */
export function nextPlace(plan: PlanOffer, filling: Filling, { slot }: Place): Place | null {
  const room = roomFor(plan, filling);
  const needed = room.find(
    (place) => place.slot.needed && photosIn(filling, place.slot.name).length < place.slot.least,
  );
  return needed ?? room.find((place) => slot.most > 1 && place.slot.name === slot.name) ?? null;
}

/** Put a photo where there is room first; where there is none, it takes no one's place. */
export function poured(plan: PlanOffer, filling: Filling, picture: string): Filling {
  const [place] = roomFor(plan, filling);
  return place ? withPhoto(filling, place, picture) : filling;
}

/** Return the two slots whose photos can change places, or the one whose order can turn. */
export function exchangeable(plan: PlanOffer, filling: Filling): readonly string[] {
  const many = plan.slots.find(({ name }) => photosIn(filling, name).length > 1);
  if (many) return [many.name];
  const filled = plan.slots.filter(({ name }) => photosIn(filling, name).length === 1);
  return filled.length > 1 ? filled.slice(0, 2).map(({ name }) => name) : [];
}

/** Let the photos of two slots change places, or turn the order of one round. */
export function exchanged(plan: PlanOffer, filling: Filling): Filling {
  const [one, other] = exchangeable(plan, filling);
  if (one === undefined) return filling;
  const first = photosIn(filling, one);
  const photos =
    other === undefined
      ? { [one]: [...first].reverse() }
      : { [one]: photosIn(filling, other), [other]: first };
  return { ...filling, photos: { ...filling.photos, ...photos } };
}

/** A piece of a plan's sentence: words, or a slot that is spoken of. */
export interface SentencePiece {
  readonly text: string;
  readonly slot: string | null;
}

/** Cut a plan's sentence at its slots: "{somebody} in {place}". */
export function piecesOf({ sentence, slots, words }: PlanOffer): readonly SentencePiece[] {
  const titles = new Map([...slots, ...words].map(({ name, title }) => [name, title]));
  return sentence
    .split(/(\{[a-z][a-z0-9-]*\})/)
    .filter((piece) => piece !== "")
    .map((piece) => {
      const name = piece.startsWith("{") ? piece.slice(1, -1) : null;
      const title = name === null ? undefined : titles.get(name);
      return title === undefined || name === null
        ? { text: piece, slot: null }
        : { text: lowered(title), slot: name };
    });
}

/** Begin a title as a word in the middle of a sentence. */
export function lowered(title: string): string {
  return title.charAt(0).toLowerCase() + title.slice(1);
}

/** Begin words as a sentence begins. */
export function raised(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

const CM_PER_INCH = 2.54;
const PRINT_PPI = 150;

/** Say how large a plan's sheet is: in print by its length, on a screen by its pixels. */
export function saySheet(width: number, height: number, ppi: number): string {
  const standing = width === height ? "square" : width < height ? "upright" : "on its side";
  if (ppi < PRINT_PPI) return `for a screen, ${width} × ${height} px, ${standing}`;
  const length = (pixels: number) => String(Math.round((pixels / ppi) * CM_PER_INCH * 10) / 10);
  return `for printing, ${length(width)} × ${length(height)} cm at ${Math.round(ppi)} ppi, ${standing}`;
}

const NUMBERS =
  "no one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen twenty".split(
    " ",
  );

/** Say a small number as a word. */
export function sayNumber(count: number): string {
  return NUMBERS[count] ?? String(count);
}
