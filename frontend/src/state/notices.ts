/** What the service told last of its own accord. */

import { create } from "zustand";

interface NoticeStore {
  /** The project that this window follows, and how many changes were told of it. */
  readonly followed: { readonly id: string; readonly changes: number } | null;
  /** Grows whenever notices may have been missed. */
  readonly catchUps: number;
  readonly listening: boolean;
  follow(id: string | null): void;
  hearMoved(id: string, changes: number): void;
  hearCatchUp(): void;
  setListening(listening: boolean): void;
}

export const useNotices = create<NoticeStore>((set) => ({
  followed: null,
  catchUps: 0,
  listening: true,
  follow: (id) => set({ followed: id === null ? null : { id, changes: 0 } }),
  hearMoved: (id, changes) =>
    set(({ followed }) => (followed?.id === id ? { followed: { id, changes } } : {})),
  hearCatchUp: () => set(({ catchUps }) => ({ catchUps: catchUps + 1 })),
  setListening: (listening) => set({ listening }),
}));
