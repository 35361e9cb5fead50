/** Tones that the service finds from the picture: what is asked, and what is done with it. */

import { isToned, layerById, type Tone, type TonedLayer } from "@/model/composite";
import { toned, withTone } from "@/model/tones";
import { expectedComposite } from "@/state/project";
import type { DeskActions } from "@/work/DeskContext";
import { viewInForce } from "@/work/zooming";

/** Return a layer as it will be once all is saved; undefined when it is gone. */
export function tonedNow(layerId: string): TonedLayer | undefined {
  const composite = expectedComposite();
  const layer = composite ? layerById(composite, layerId) : undefined;
  return isToned(layer) ? layer : undefined;
}

/** Set what was found in place of a tone of its kind, unless that is gone by now. */
export function setFound(desk: DeskActions, layerId: string, place: number, found: Tone): void {
  const layer = desk.isLeft() ? undefined : tonedNow(layerId);
  if (layer?.tones[place]?.kind !== found.kind) return;
  desk.edit(toned(layer, withTone(layer, place, found)));
}

/** Pixels of the screen: what is pointed at is no single pixel. */
const SPOT = 3;
const LARGEST_SPOT = 64;

/** Return how far around what is pointed at is looked, in pixels of the canvas. */
export function spotRadius(): number {
  return Math.min(Math.max(SPOT / (viewInForce()?.scale ?? 1), 0.5), LARGEST_SPOT);
}
