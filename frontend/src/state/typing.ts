/** Which words are being typed on the stage; what is typed is shown and saved as edits. */

import { create } from "zustand";

interface Typing {
  /** The layer; it may not be answered yet. */
  readonly layerId: string | null;
  begin(layerId: string): void;
  end(): void;
}

export const useTyping = create<Typing>((set) => ({
  layerId: null,
  begin: (layerId) => set({ layerId }),
  end: () => set({ layerId: null }),
}));
