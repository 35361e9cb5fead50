/** Which keys this person set, kept by the browser. */

import { create } from "zustand";
import { keep, kept } from "@/browser/storage";
import {
  type DeedId,
  KEY_DEEDS,
  type KeyDeed,
  type OwnKeys,
  readKeys,
  sayStroke,
  strokesFor,
  withKeys,
} from "@/model/keys";

const KEYS = "glyphaneme.keys";

interface OwnKeyStore {
  readonly own: OwnKeys;
  /** Set the strokes for a deed. */
  set(id: DeedId, strokes: readonly string[]): void;
  /** Let all keys be as they were at first. */
  forget(): void;
}

export const useOwnKeys = create<OwnKeyStore>((change, get) => ({
  own: readKeys(kept(KEYS)),
  set: (id, strokes) => {
    const own = withKeys(get().own, id, strokes);
    keep(KEYS, JSON.stringify(own));
    change({ own });
  },
  forget: () => {
    keep(KEYS, null);
    change({ own: {} });
  },
}));

/** Return how the key for a deed is called; null where it has none. */
export function useKeyName(id: DeedId): string | null {
  return useOwnKeys(({ own }) => {
    const deed = KEY_DEEDS.find((one) => one.id === id) as KeyDeed;
    const [stroke] = strokesFor(deed, own);
    return stroke === undefined ? null : sayStroke(stroke);
  });
}
