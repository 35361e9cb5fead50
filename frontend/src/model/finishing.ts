/** What a finished file shall be like, and how that is said: no requests, no React. */

import type { components } from "@generated/schema";
import type { Answered, Composite, Layer } from "@/model/composite";
import { isChanging, membersOf } from "@/model/composite";
import { sayLength } from "@/model/wording";

type Schemas = components["schemas"];

export type FileSettings = Answered<Schemas["FileSettings"]>;
export type FileFormat = FileSettings["format"];
export type FileSize = FileSettings["size"];
export type FileFacts = Answered<Schemas["FileFacts"]>;
export type Purpose = Answered<Schemas["OfferedPurpose"]>;
export type EarlierFile = Answered<Schemas["EarlierFile"]>;
export type Profile = Answered<Schemas["OfferedProfile"]>;
export type About = Answered<Schemas["About"]>;
export type SheetPart = Answered<Schemas["SheetPart"]>;
export type Comparison = Answered<Schemas["Comparison"]>;
export type ComparedAs = Comparison["made_as"];
export type ExportRequest = Answered<Schemas["ExportRequest"]>;
export type ColorSpace = FileSettings["coloring"]["space"];

/** What of a picture is saved. */
export type FilePart =
  | { readonly what: "whole" }
  | { readonly what: "piece"; readonly layer: string; readonly trimmed: boolean }
  | { readonly what: "apart"; readonly layers: readonly string[] }
  | { readonly what: "chosen"; readonly layers: readonly string[] }
  | { readonly what: "crop"; readonly crop: SheetPart }
  | { readonly what: "compare"; readonly compare: Comparison };

export const WHOLE: FilePart = { what: "whole" };

interface FormatWords {
  readonly id: FileFormat;
  readonly name: string;
  /** What it is good for, where it is chosen. */
  readonly label: string;
}

export const FORMATS: readonly FormatWords[] = [
  { id: "jpeg", name: "JPEG", label: "JPEG, small, opened everywhere" },
  { id: "png", name: "PNG", label: "PNG, every pixel exact" },
  { id: "webp", name: "WebP", label: "WebP, small, for web pages" },
  { id: "avif", name: "AVIF", label: "AVIF, smallest, for newer browsers" },
  { id: "tiff", name: "TIFF", label: "TIFF, exact, for print shops" },
  { id: "pdf", name: "PDF", label: "PDF, a page at its true size" },
  { id: "gif", name: "GIF", label: "GIF, 256 colours, for what is small" },
  { id: "openraster", name: "OpenRaster file", label: "OpenRaster, with its layers" },
];

const HAS_QUALITY: ReadonlySet<FileFormat> = new Set(["jpeg", "webp", "avif", "pdf"]);
const CAN_BE_EXACT: ReadonlySet<FileFormat> = new Set(["webp", "pdf"]);
const HAS_FINE_COLOR: ReadonlySet<FileFormat> = new Set(["jpeg", "avif", "pdf"]);
const HAS_DEEP: ReadonlySet<FileFormat> = new Set(["png", "tiff"]);
const HAS_INK: ReadonlySet<FileFormat> = new Set(["pdf", "tiff", "jpeg"]);
const HAS_NO_ALPHA: ReadonlySet<FileFormat> = new Set(["jpeg"]);

const SHOWN_BY_BROWSERS: ReadonlySet<FileFormat> = new Set(["jpeg", "png", "webp", "avif", "gif"]);

export const isShownByBrowsers = (format: FileFormat): boolean => SHOWN_BY_BROWSERS.has(format);
export const hasQuality = ({ format, exact }: FileSettings): boolean =>
  HAS_QUALITY.has(format) && !(exact && CAN_BE_EXACT.has(format));
export const canBeExact = (format: FileFormat): boolean => CAN_BE_EXACT.has(format);
export const hasFineColor = (format: FileFormat): boolean => HAS_FINE_COLOR.has(format);
export const hasDeep = (format: FileFormat): boolean => HAS_DEEP.has(format);
export const hasInk = (format: FileFormat): boolean => HAS_INK.has(format);
export const isLayered = (format: FileFormat): boolean => format === "openraster";

/** Tell whether see-through places get a colour, so that one asks which. */
export const needsMatte = (settings: FileSettings): boolean =>
  settings.ground === null &&
  (HAS_NO_ALPHA.has(settings.format) || settings.coloring.space === "ink");

/** Change the format, and with it what the new one cannot hold. */
export function withFormat(settings: FileSettings, format: FileFormat): FileSettings {
  const { coloring } = settings;
  return {
    ...settings,
    format,
    bits: HAS_DEEP.has(format) ? settings.bits : 8,
    coloring:
      coloring.space === "ink" && !HAS_INK.has(format) ? { ...coloring, space: "srgb" } : coloring,
    tiling: format === "pdf" ? settings.tiling : null,
  };
}

/** Return the article that goes before a format. */
export const articleOf = (format: FileFormat): string =>
  format === "avif" || isLayered(format) ? "An" : "A";

/** Say a format in the middle of a sentence. */
export const sayFormat = (format: FileFormat): string =>
  FORMATS.find(({ id }) => id === format)?.name ?? format;

export const COLOR_CHOICES: readonly { readonly id: ColorSpace; readonly label: string }[] = [
  { id: "srgb", label: "sRGB" },
  { id: "display_p3", label: "Display P3" },
  { id: "gray", label: "greys alone" },
  { id: "ink", label: "the printer's colours" },
];

const MM_PER_INCH = 25.4;
const CM = 10;

/** Say a length on paper, in centimetres or inches. */
export function sayPaper(mm: number, unit: "cm" | "in"): string {
  return sayLength(unit === "cm" ? mm / CM : mm / MM_PER_INCH);
}

/** Say both sides of a paper. */
export const saySides = (sides: readonly [number, number], unit: "cm" | "in"): string =>
  `${sayPaper(sides[0], unit)} × ${sayPaper(sides[1], unit)} ${unit}`;

/** Say how large something is to be, as its live word. */
export function saySize(settings: FileSettings, facts: FileFacts, unit: "cm" | "in"): string {
  if (settings.size.by === "paper") return saySides(facts.trim_mm, unit);
  return `${sayNumber(facts.width)} × ${sayNumber(facts.height)} pixels`;
}

/** Say a number with thin spaces between its thousands. */
export const sayNumber = (number: number): string =>
  String(Math.round(number)).replace(/\B(?=(\d{3})+$)/g, "\u202f");

/** Say how many bytes a file has. */
export function sayBytes(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`;
  if (bytes < 1_000_000) return `${sayLength(bytes / 1000)} kB`;
  return `${sayLength(bytes / 1_000_000)} MB`;
}

/** Say of what a file is, as its live word. */
export function sayPart(part: FilePart, layers: readonly Layer[]): string {
  switch (part.what) {
    case "whole":
      return "the whole picture";
    case "piece": {
      const name = allLayers(layers).find(({ id }) => id === part.layer)?.name ?? "one layer";
      return part.trimmed ? `${name} alone, cut to what shows` : `${name} alone, in the sheet`;
    }
    case "apart":
      return "each layer by itself";
    case "chosen":
      return part.layers.length === 1 ? "one chosen layer" : `${part.layers.length} chosen layers`;
    case "crop":
      return "a part of the picture";
    case "compare":
      return `${part.compare.before_caption.toLowerCase()} and ${part.compare.after_caption.toLowerCase()}`;
  }
}

/** Return all layers, the front one first, with those in groups. */
export function allLayers(layers: readonly Layer[]): readonly Layer[] {
  return [...layers].reverse().flatMap((layer) => [layer, ...allLayers(membersOf(layer))]);
}

/** Return those that have pixels of their own, and so can be saved by themselves. */
export const savedAlone = (composite: Composite): readonly Layer[] =>
  allLayers(composite.layers).filter((layer) => !isChanging(layer));

/** Return a part as a format can hold it: the whole where it cannot. */
export function partIn(part: FilePart, format: FileFormat): FilePart {
  const isHeld: Readonly<Record<FilePart["what"], boolean>> = {
    whole: true,
    chosen: true,
    compare: true,
    piece: !isLayered(format),
    crop: !isLayered(format),
    apart: !isLayered(format) && format !== "pdf",
  };
  return isHeld[part.what] ? part : WHOLE;
}

/** Return the format of pictures that are compared: browsers have to show them. */
export const comparedIn = (format: FileFormat): FileFormat =>
  isShownByBrowsers(format) ? format : "jpeg";

/** Return what a file is asked for by. */
export function requestFor(
  settings: FileSettings,
  part: FilePart,
  revision: string,
  about: About,
): ExportRequest {
  const nothing = {
    apart: [],
    piece: null,
    trimmed: false,
    chosen: [],
    crop: null,
    compare: null,
  };
  const request = { ...settings, ...nothing, revision, about };
  switch (part.what) {
    case "whole":
      return request;
    case "piece":
      return { ...request, piece: part.layer, trimmed: part.trimmed };
    case "apart":
      return { ...request, apart: part.layers };
    case "chosen":
      return { ...request, chosen: part.layers };
    case "crop":
      return { ...request, crop: part.crop };
    case "compare":
      return { ...request, compare: part.compare };
  }
}

export const COMPARED_AS: readonly { readonly id: ComparedAs; readonly label: string }[] = [
  { id: "page", label: "a page with a bar to drag" },
  { id: "pair", label: "two files" },
  { id: "webp", label: "moving WebP" },
  { id: "gif", label: "moving GIF" },
  { id: "mp4", label: "film (MP4)" },
];

/** What a web page shows a comparison by. */
export function embedding(file: string, facts: FileFacts): string {
  const shape = `aspect-ratio: ${facts.width} / ${facts.height}`;
  return `<iframe src="${file}" title="Before and after" loading="lazy" style="width: 100%; ${shape}; border: 0"></iframe>`;
}

export type Gathered = Schemas["NewMany"]["gathered"] & string;

/** Several pictures, and what is made of them. */
export interface Many {
  readonly projects: readonly string[];
  readonly settings: FileSettings;
  readonly gathered: Gathered;
  /** Of a contact sheet. */
  readonly grid: { readonly columns: number; readonly rows: number };
}

export const GATHERED: readonly { readonly id: Gathered; readonly label: string }[] = [
  { id: "zip", label: "files in a ZIP" },
  { id: "pages", label: "pages of one PDF" },
  { id: "contact", label: "a contact sheet" },
];

/** Up to how many pixels a file is made beforehand, so that its size is known. */
export const MOST_MADE_BEFOREHAND = 24_500_000;

export interface GaveWay {
  readonly quality: number;
  readonly width: number;
  readonly height: number;
  readonly gave_way?: readonly string[];
}

/** Say what a file gave up to be small enough; null where it gave up nothing. */
export function sayGaveWay(found: GaveWay, most: number): string | null {
  const gave = found.gave_way ?? [];
  if (gave.length === 0) return null;
  const size = `${sayNumber(found.width)} × ${sayNumber(found.height)} pixels`;
  const limit = `To stay under ${sayBytes(most)}`;
  if (!gave.includes("size")) return `${limit} it has quality ${found.quality}.`;
  return gave.includes("quality")
    ? `${limit} it has quality ${found.quality} and ${size}.`
    : `${limit} it has ${size}.`;
}

/** Return a crop of some proportions that fits into the sheet, in its middle. */
export function cropInMiddle(width: number, height: number, share = 0.8): SheetPart {
  return {
    x: (width * (1 - share)) / 2,
    y: (height * (1 - share)) / 2,
    width: width * share,
    height: height * share,
  };
}

const LEAST_SIDE = 8;

/** Move one edge or corner of a crop, or all of it, and keep it on the sheet. */
export function cropMoved(
  crop: SheetPart,
  grip: string,
  by: { readonly x: number; readonly y: number },
  sheet: { readonly width: number; readonly height: number },
): SheetPart {
  if (grip === "all") {
    const x = clamp(crop.x + by.x, 0, sheet.width - crop.width);
    const y = clamp(crop.y + by.y, 0, sheet.height - crop.height);
    return { ...crop, x, y };
  }
  let { x: left, y: top } = crop;
  let right = left + crop.width;
  let bottom = top + crop.height;
  if (grip.includes("left")) left = clamp(left + by.x, 0, right - LEAST_SIDE);
  if (grip.includes("right")) right = clamp(right + by.x, left + LEAST_SIDE, sheet.width);
  if (grip.includes("top")) top = clamp(top + by.y, 0, bottom - LEAST_SIDE);
  if (grip.includes("bottom")) bottom = clamp(bottom + by.y, top + LEAST_SIDE, sheet.height);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

const clamp = (value: number, least: number, most: number): number =>
  Math.min(Math.max(value, least), Math.max(least, most));
