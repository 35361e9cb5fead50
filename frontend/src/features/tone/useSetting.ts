/** One tone as it is being set: tried on the stage while the hand moves, taken at its end. */

import type { TonedLayer } from "@/model/composite";
import { type ToneKind, type ToneOf, toned, withTone } from "@/model/tones";
import { useDesk } from "@/state/desk/desk";
import { useCalmLive } from "@/state/useCalmLive";
import { useDeskActions } from "@/work/DeskContext";

export interface Setting<Kind extends ToneKind> {
  readonly layer: TonedLayer;
  readonly place: number;
  /** As it is shown now. */
  readonly tone: ToneOf<Kind>;
  /** Show it changed. */
  preview(changes: Partial<ToneOf<Kind>>): void;
  /** Change it. */
  take(changes: Partial<ToneOf<Kind>>): void;
}

/** Return the tone at a place, and how it is set; null where there is none. */
export function useSetting(layer: TonedLayer, place: number): Setting<ToneKind> | null {
  const desk = useDeskActions();
  const live = useCalmLive();
  const { setLive } = useDesk((state) => state.actions);
  const kept = layer.tones[place];
  if (!kept) return null;
  const isLive = live?.kind === "tone_layer" && live.layer_id === layer.id;
  const shown = isLive ? live.tones[place] : undefined;
  const changed = (changes: object) =>
    toned(layer, withTone(layer, place, { ...kept, ...changes } as typeof kept));
  return {
    layer,
    place,
    tone: shown?.kind === kept.kind ? shown : kept,
    preview: (changes) => setLive(changed(changes)),
    take: (changes) => {
      setLive(null);
      const edit = changed(changes);
      if (JSON.stringify({ ...kept, ...changes }) !== JSON.stringify(kept)) desk.edit(edit);
    },
  };
}
