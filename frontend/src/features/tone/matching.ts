/** Having a layer matched: the ways that are offered, and pairs of spots. */

import { askForMatches, askForPairs } from "@/api/calls";
import type { DeskActions } from "@/features/desk/DeskContext";
import { viewInForce } from "@/features/stage/zooming";
import type { TonedLayer } from "@/model/composite";
import type { Point } from "@/model/geometry";
import { type MatchOffer, MOST_PAIRS, matchedTo, type Pair } from "@/model/matches";
import { toned, withTone } from "@/model/tones";
import { useDesk } from "@/state/desk";
import { useMessages } from "@/state/messages";
import { usePairing } from "@/state/pairing";
import { expectedComposite, savedRevision } from "@/state/project";

/** Match a layer to what lies behind it, or to another, by the safest way; open that. */
export async function addMatch(
  desk: DeskActions,
  layer: TonedLayer,
  to: string | null,
): Promise<void> {
  const place = layer.tones.length;
  const offers = await offersFor(desk.projectId, layer, place, to);
  const safest = offers[0];
  if (!safest) return;
  desk.edit(toned(layer, [...layer.tones, safest.tone]));
  const { open, openLine } = useDesk.getState().actions;
  open(layer.id, "tone");
  openLine(String(place));
}

/** Return the ways to match a layer; none, with a word of why, where it cannot be. */
async function offersFor(
  projectId: string,
  { id }: TonedLayer,
  place: number,
  to: string | null,
): Promise<readonly MatchOffer[]> {
  try {
    const revision = await savedRevision();
    return await askForMatches(projectId, { revision, layer_id: id, place, to });
  } catch (error) {
    warn(error);
    return [];
  }
}

/** Take a spot that was pressed: the first of a pair, or the second, which completes it. */
export function pressPair(desk: DeskActions, layer: TonedLayer, place: number, at: Point): void {
  const { first, pairs, set } = usePairing.getState();
  if (!first) {
    set({ first: at });
    return;
  }
  const all = [...pairs, { this: first, that: at }];
  set({ first: null, pairs: all, isOn: all.length < MOST_PAIRS });
  void matchByPairs(desk, layer, place, all);
}

/** Match a layer by all pairs that are pointed at. */
export async function matchByPairs(
  desk: DeskActions,
  layer: TonedLayer,
  place: number,
  pairs: readonly Pair[],
): Promise<void> {
  const composite = expectedComposite();
  const tone = layer.tones[place];
  if (!composite || tone?.kind !== "match" || pairs.length === 0) return;
  try {
    const revision = await savedRevision();
    const to = matchedTo(composite, tone);
    const radius = Math.min(Math.max(SPOT / (viewInForce()?.scale ?? 1), 0.5), LARGEST_SPOT);
    const asked = { revision, layer_id: layer.id, place, to, pairs, radius };
    const found = await askForPairs(desk.projectId, asked);
    desk.edit(toned(layer, withTone(layer, place, found)));
  } catch (error) {
    warn(error);
  }
}

/** Pixels of the screen: what is pointed at is no single pixel. */
const SPOT = 3;
const LARGEST_SPOT = 64;

function warn(error: unknown): void {
  useMessages.getState().warn(error instanceof Error ? error.message : String(error));
}
