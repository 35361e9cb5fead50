/** Cropping a photo: its frame pulled by a side or corner, the photo shifted inside it. */

import type { PhotoLayer, Placement } from "@/model/composite";
import { canvasToPlane, clampedScale, planeToCanvas } from "@/model/geometry";
import type { Point } from "@/model/points";
import { type Crop, frameSize, fromFrame, toFrame, unwarped } from "@/model/shaping";

/** Which sides of a frame a grip pulls. */
export interface Pulled {
  readonly across: "left" | "right" | null;
  readonly down: "top" | "bottom" | null;
}

/** Grips of a frame, by the names that they have on the stage. */
export const CROP_GRIPS = {
  "crop-top-left": { across: "left", down: "top" },
  "crop-top": { across: null, down: "top" },
  "crop-top-right": { across: "right", down: "top" },
  "crop-right": { across: "right", down: null },
  "crop-bottom-right": { across: "right", down: "bottom" },
  "crop-bottom": { across: null, down: "bottom" },
  "crop-bottom-left": { across: "left", down: "bottom" },
  "crop-left": { across: "left", down: null },
} as const satisfies Record<string, Pulled>;

export type CropGrip = keyof typeof CROP_GRIPS;

export function isCropGrip(name: unknown): name is CropGrip {
  return typeof name === "string" && name in CROP_GRIPS;
}

/** Where a grip lies in its frame, 0..1. */
export function gripPlace({ across, down }: Pulled): Point {
  const at = (side: string | null, low: string) => (side === null ? 0.5 : side === low ? 0 : 1);
  return { x: at(across, "left"), y: at(down, "top") };
}

const LEAST = 8;
const DEGREE = Math.PI / 180;

/** The frame that shows all of a photo. */
export function wholeFrame(layer: PhotoLayer): Crop {
  const { width, height } = layer;
  const plain = { zoom: 1, turn: 0, shape: "rectangle", corner: 0 } as const;
  return { ...plain, x: width / 2, y: height / 2, width, height };
}

/** Return a photo's crop; where it has none, the one that shows all of it. */
export function cropOf(layer: PhotoLayer): Crop {
  return layer.placement.crop ?? wholeFrame(layer);
}

/** Sides of a frame, in shares of the one before. */
interface Sides {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/**
 * Pull a frame's grip to a position on the canvas; the sides across from it stay. With a
 * `ratio` (width by height) the frame keeps that. The photo stays where it lies.
 */
export function pulledFrame(
  layer: PhotoLayer,
  grip: CropGrip,
  to: Point,
  ratio: number | null,
): Placement {
  const size = frameSize(layer.placement, layer);
  const at = unwarped(layer.placement, canvasToPlane(layer, to));
  const pulled: Pulled = CROP_GRIPS[grip];
  const bounds = photoBounds(layer);
  const [leastX, leastY] = [LEAST / size.width, LEAST / size.height];
  const free: Sides = {
    left: pulled.across === "left" ? held(at.x, bounds.left, 1 - leastX) : 0,
    right: pulled.across === "right" ? held(at.x, leastX, bounds.right) : 1,
    top: pulled.down === "top" ? held(at.y, bounds.top, 1 - leastY) : 0,
    bottom: pulled.down === "bottom" ? held(at.y, leastY, bounds.bottom) : 1,
  };
  const sides = ratio === null ? free : inRatio(free, pulled, ratio, size, bounds);
  return framedBy(layer, sides);
}

/** Give a frame a ratio about its middle, as large as the photo allows. */
export function framedInRatio(layer: PhotoLayer, ratio: number): Placement {
  const size = frameSize(layer.placement, layer);
  const [width, height] =
    size.width / size.height > ratio
      ? [(size.height * ratio) / size.width, 1]
      : [1, size.width / ratio / size.height];
  return framedBy(layer, {
    left: 0.5 - width / 2,
    right: 0.5 + width / 2,
    top: 0.5 - height / 2,
    bottom: 0.5 + height / 2,
  });
}

/** Return the placement with other sides of its frame; the photo stays where it lies. */
export function framedBy(layer: PhotoLayer, sides: Sides): Placement {
  const { placement } = layer;
  const crop = cropOf(layer);
  const size = frameSize(placement, layer);
  const middle = { x: (sides.left + sides.right) / 2, y: (sides.top + sides.bottom) / 2 };
  const inPhoto = fromFrame(placement, layer, middle);
  const onCanvas = planeToCanvas(layer, middle);
  return {
    ...placement,
    x: onCanvas.x,
    y: onCanvas.y,
    crop: {
      ...crop,
      ...inPhoto,
      width: Math.max((sides.right - sides.left) * size.width, 1),
      height: Math.max((sides.bottom - sides.top) * size.height, 1),
    },
  };
}

/** Move the photo in its frame by what the hand moved on the canvas. */
export function shiftedInside(layer: PhotoLayer, from: Point, to: Point): Placement {
  const { placement } = layer;
  const seen = (at: Point) =>
    fromFrame(placement, layer, unwarped(placement, canvasToPlane(layer, at)));
  const [before, after] = [seen(from), seen(to)];
  const crop = cropOf(layer);
  return withCrop(layer, {
    ...crop,
    x: crop.x - (after.x - before.x),
    y: crop.y - (after.y - before.y),
  });
}

/** Return the placement with another crop in the same frame, the photo still filling it. */
export function withCrop(layer: PhotoLayer, crop: Crop): Placement {
  return { ...layer.placement, crop: filling(layer, crop) };
}

/** Take a crop back: the whole photo, its part that was in the frame where it lay. */
export function uncropped(layer: PhotoLayer): Placement {
  const { placement } = layer;
  const { crop } = placement;
  if (!crop) return placement;
  const middle = { x: layer.width / 2, y: layer.height / 2 };
  const at = planeToCanvas(layer, toFrame(placement, layer, middle));
  const sense = placement.flipped === placement.upended ? 1 : -1;
  return {
    ...placement,
    x: at.x,
    y: at.y,
    scale_x: clampedScale(placement.scale_x * crop.zoom),
    scale_y: clampedScale(placement.scale_y * crop.zoom),
    turn: placement.turn + sense * crop.turn,
    crop: null,
  };
}

/** Keep a photo over all of its frame: not too small, and not shifted out of it. */
function filling(layer: PhotoLayer, crop: Crop): Crop {
  const [cosine, sine] = [Math.cos(crop.turn * DEGREE), Math.sin(crop.turn * DEGREE)];
  const reach = {
    x: (crop.width * Math.abs(cosine) + crop.height * Math.abs(sine)) / 2,
    y: (crop.width * Math.abs(sine) + crop.height * Math.abs(cosine)) / 2,
  };
  const least = Math.max((2 * reach.x) / layer.width, (2 * reach.y) / layer.height);
  const zoom = clampedScale(Math.max(crop.zoom, least));
  const [x, y] = [reach.x / zoom, reach.y / zoom];
  return {
    ...crop,
    zoom,
    x: held(crop.x, x, Math.max(layer.width - x, x)),
    y: held(crop.y, y, Math.max(layer.height - y, y)),
  };
}

/** How far a frame may reach, in its own shares: as far as the photo, unless that is turned. */
function photoBounds(layer: PhotoLayer): Sides {
  const { crop } = layer.placement;
  if (!crop) return { left: 0, top: 0, right: 1, bottom: 1 };
  if (crop.turn !== 0) return { left: -100, top: -100, right: 100, bottom: 100 };
  const at = (pixel: number, middle: number, side: number) =>
    ((pixel - middle) * crop.zoom) / side + 0.5;
  return {
    left: Math.min(at(0, crop.x, crop.width), 0),
    right: Math.max(at(layer.width, crop.x, crop.width), 1),
    top: Math.min(at(0, crop.y, crop.height), 0),
    bottom: Math.max(at(layer.height, crop.y, crop.height), 1),
  };
}

/** Bring pulled sides into a ratio: the larger of both pulls counts, within the bounds. */
function inRatio(
  free: Sides,
  pulled: Pulled,
  ratio: number,
  size: { readonly width: number; readonly height: number },
  bounds: Sides,
): Sides {
  const shape = (ratio * size.height) / size.width;
  const wide = pulled.across === null ? 0 : free.right - free.left;
  const high = pulled.down === null ? 0 : free.bottom - free.top;
  const room = {
    across: pulled.across === "left" ? 1 - bounds.left : bounds.right,
    down: pulled.down === "top" ? 1 - bounds.top : bounds.bottom,
  };
  const width = Math.min(Math.max(wide, high * shape), room.across, room.down * shape);
  const [left, right] = ends(pulled.across, "left", width);
  const [top, bottom] = ends(pulled.down, "top", width / shape);
  return { left, right, top, bottom };
}

/** Where a side of that length begins and ends: what is not pulled stays. */
function ends(pulled: string | null, low: string, length: number): readonly [number, number] {
  if (pulled === null) return [0.5 - length / 2, 0.5 + length / 2];
  return pulled === low ? [1 - length, 1] : [0, length];
}

function held(value: number, least: number, most: number): number {
  return Math.min(Math.max(value, least), most);
}
