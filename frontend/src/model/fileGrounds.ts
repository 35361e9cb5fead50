/** What a finished picture is seen on, where it will be looked at. */

export type Ground = "paper" | "white" | "black" | "phone";

/** All of it, or its own pixels, one by one. */
export type Seeing = "whole" | "pixels";

export const GROUNDS: readonly { readonly id: Ground; readonly label: string }[] = [
  { id: "paper", label: "grey, as paper lies" },
  { id: "white", label: "a white page" },
  { id: "black", label: "a black page" },
  { id: "phone", label: "a phone" },
];

const BY_PURPOSE: Readonly<Record<string, Ground>> = {
  web: "white",
  listing: "white",
  message: "phone",
  slide: "black",
};

/** Return what suits a purpose. */
export const groundFor = (purpose: string): Ground => BY_PURPOSE[purpose] ?? "paper";

export interface Fit {
  readonly width: number;
  readonly height: number;
  /** Shown pixels for one of the file's. */
  readonly scale: number;
}

/** Fit a picture into a room, never larger than its own pixels on this screen. */
export function fitted(
  file: { readonly width: number; readonly height: number },
  room: { readonly width: number; readonly height: number },
  density: number,
): Fit {
  const most = Math.min(room.width / file.width, room.height / file.height);
  const scale = Math.min(most, 1 / density);
  return { width: file.width * scale, height: file.height * scale, scale };
}
