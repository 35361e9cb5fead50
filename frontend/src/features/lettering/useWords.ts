/** How the words of a layer are shown and changed by the settings of their facet. */

import { isLocked, type WordsLayer } from "@/model/composite";
import { type Words, type WordsChange, wordsEdit } from "@/model/words";
import { useDesk } from "@/state/desk/desk";
import { useComposite } from "@/state/project";
import { useCalmLive } from "@/state/useCalmLive";
import { useDeskActions } from "@/work/DeskContext";

export interface WordsSetting {
  readonly layer: WordsLayer;
  /** As they are shown now. */
  readonly words: Words;
  readonly isOff: boolean;
  /** Show a change while the hand still makes it. */
  preview(change: WordsChange): void;
  take(change: WordsChange): void;
}

export function useWords(layer: WordsLayer): WordsSetting {
  const desk = useDeskActions();
  const composite = useComposite();
  const live = useCalmLive();
  const { setLive } = useDesk((state) => state.actions);
  const isLive = live?.kind === "set_words" && live.layer_id === layer.id;
  return {
    layer,
    words: isLive ? live.words : layer.words,
    isOff: composite !== null && isLocked(composite, layer.id),
    preview: (change) => setLive(wordsEdit(layer, change)),
    take: (change) => {
      setLive(null);
      desk.edit(wordsEdit(layer, change));
    },
  };
}
