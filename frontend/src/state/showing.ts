/** Whether the stage can show what it shall. */

import { create } from "zustand";

interface ShowingStore {
  /** Why the newest frame did not come; null where it did, or is on its way. */
  readonly trouble: string | null;
}

export const useShowing = create<ShowingStore>(() => ({ trouble: null }));
