/** What the service told last of its own accord. */

import { create } from "zustand";

interface NoticeStore {
  /** Where a project stands, as some window has just moved it. */
  readonly moved: { readonly id: string; readonly head: string } | null;
  /** Grows whenever notices may have been missed. */
  readonly catchUps: number;
  readonly listening: boolean;
  hearMoved(id: string, head: string): void;
  hearCatchUp(): void;
  setListening(listening: boolean): void;
}

export const useNotices = create<NoticeStore>((set) => ({
  moved: null,
  catchUps: 0,
  listening: true,
  hearMoved: (id, head) => set({ moved: { id, head } }),
  hearCatchUp: () => set(({ catchUps }) => ({ catchUps: catchUps + 1 })),
  setListening: (listening) => set({ listening }),
}));
