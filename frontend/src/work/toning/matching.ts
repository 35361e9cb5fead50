/** Having a layer matched: the ways that are offered, and pairs of spots. */

import { askForMatches, askForPairs } from "@/api/calls";
import type { TonedLayer } from "@/model/composite";
import { MOST_PAIRS, matchedTo, type Pair } from "@/model/matches";
import type { Point } from "@/model/points";
import { toned } from "@/model/tones";
import { useDesk } from "@/state/desk/desk";
import { findOut } from "@/state/finding";
import { usePairing } from "@/state/pairing";
import { expectedComposite, savedRevision } from "@/state/project";
import type { DeskActions } from "@/work/DeskContext";
import { setFound, spotRadius, tonedNow } from "@/work/toning/found";

/** Match a layer to what lies behind it, or to another, by the safest way; open that. */
export async function addMatch(
  desk: DeskActions,
  layer: TonedLayer,
  to: string | null,
): Promise<void> {
  await findOut(async () => {
    const revision = await savedRevision();
    const asked = { revision, layer_id: layer.id, place: layer.tones.length, to };
    const [safest] = await askForMatches(desk.projectId, asked);
    const now = tonedNow(layer.id);
    if (!safest || !now || desk.isLeft()) return;
    desk.edit(toned(now, [...now.tones, safest.tone]));
    const { open, openLine } = useDesk.getState().actions;
    open(layer.id, "tone");
    openLine(String(now.tones.length));
  });
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
  await findOut(async () => {
    const revision = await savedRevision();
    const to = matchedTo(composite, tone);
    const asked = { revision, layer_id: layer.id, place, to, pairs, radius: spotRadius() };
    const found = await askForPairs(desk.projectId, asked);
    if (!isOutdone(pairs)) setFound(desk, layer.id, place, found);
  });
}

/** Whether others were pointed at since. */
function isOutdone(pairs: readonly Pair[]): boolean {
  const now = usePairing.getState().pairs;
  return now !== pairs && now.length > 0;
}
