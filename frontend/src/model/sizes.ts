/** What a picture is for, and the sizes that go with it. */

import { CANVAS } from "@generated/limits";

export type Purpose = "print" | "screen" | "photo";
export type Unit = "cm" | "in" | "px";

export interface SheetSize {
  readonly id: string;
  readonly label: string;
  /** Shorter side first: upright. */
  readonly width: number;
  readonly height: number;
  readonly unit: Unit;
  readonly ppi: number;
}

export const PURPOSES: readonly { readonly id: Purpose; readonly label: string }[] = [
  { id: "print", label: "for printing" },
  { id: "screen", label: "for a screen" },
  { id: "photo", label: "as large as a photo" },
];

export const PRINT_SIZES: readonly SheetSize[] = [
  { id: "10x15", label: "10 × 15 cm at 300 ppi", width: 10, height: 15, unit: "cm", ppi: 300 },
  { id: "13x18", label: "13 × 18 cm at 300 ppi", width: 13, height: 18, unit: "cm", ppi: 300 },
  {
    id: "postcard",
    label: "postcard, 14.8 × 10.5 cm",
    width: 10.5,
    height: 14.8,
    unit: "cm",
    ppi: 300,
  },
  { id: "a5", label: "A5 at 300 ppi", width: 14.8, height: 21, unit: "cm", ppi: 300 },
  { id: "a4", label: "A4 at 300 ppi", width: 21, height: 29.7, unit: "cm", ppi: 300 },
  { id: "30x40", label: "30 × 40 cm at 240 ppi", width: 30, height: 40, unit: "cm", ppi: 240 },
  { id: "a3", label: "A3 at 240 ppi", width: 29.7, height: 42, unit: "cm", ppi: 240 },
  { id: "50x70", label: "50 × 70 cm at 150 ppi", width: 50, height: 70, unit: "cm", ppi: 150 },
  { id: "4x6in", label: "4 × 6 in at 300 ppi", width: 4, height: 6, unit: "in", ppi: 300 },
  { id: "8x10in", label: "8 × 10 in at 300 ppi", width: 8, height: 10, unit: "in", ppi: 300 },
  { id: "11x14in", label: "11 × 14 in at 240 ppi", width: 11, height: 14, unit: "in", ppi: 240 },
  { id: "letter", label: "8.5 × 11 in at 300 ppi", width: 8.5, height: 11, unit: "in", ppi: 300 },
];

export const SCREEN_SIZES: readonly SheetSize[] = [
  { id: "wide", label: "16:9, 1920 × 1080", width: 1080, height: 1920, unit: "px", ppi: 96 },
  { id: "wide4k", label: "16:9, 3840 × 2160", width: 2160, height: 3840, unit: "px", ppi: 96 },
  { id: "square", label: "square post, 1080", width: 1080, height: 1080, unit: "px", ppi: 96 },
  { id: "portrait", label: "portrait post, 4:5", width: 1080, height: 1350, unit: "px", ppi: 96 },
  { id: "tall", label: "tall story, 9:16", width: 1080, height: 1920, unit: "px", ppi: 96 },
  { id: "banner", label: "banner, 3 : 1", width: 600, height: 1800, unit: "px", ppi: 96 },
  { id: "product", label: "shop picture, 2000", width: 2000, height: 2000, unit: "px", ppi: 96 },
];

export const OWN_SIZE = "own";

const PER_INCH: Readonly<Record<Exclude<Unit, "px">, number>> = { cm: 2.54, in: 1 };

/** Turn a length into pixels, and parts of them. */
export function inPixels(length: number, unit: Unit, ppi: number): number {
  return unit === "px" ? length : (length / PER_INCH[unit]) * ppi;
}

/** Turn a sheet's length into the whole pixels that it may have. */
export function toPixels(length: number, unit: Unit, ppi: number): number {
  const pixels = inPixels(length, unit, ppi);
  return Math.min(Math.max(Math.round(pixels), CANVAS.width.minimum), CANVAS.width.maximum);
}

/** Turn pixels into a length. */
export function fromPixels(pixels: number, unit: Unit, ppi: number): number {
  return unit === "px" ? pixels : (pixels / ppi) * PER_INCH[unit];
}

/** Return width and height for a sheet that stands upright or lies on its side. */
export function laidOut<T extends { readonly width: number; readonly height: number }>(
  size: T,
  upright: boolean,
): { width: number; height: number } {
  const short = Math.min(size.width, size.height);
  const long = Math.max(size.width, size.height);
  return upright ? { width: short, height: long } : { width: long, height: short };
}
