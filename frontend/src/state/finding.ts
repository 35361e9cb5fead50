/** What the service is finding out before a change can be made. */

import { create } from "zustand";
import { useMessages } from "@/state/messages";

interface FindingStore {
  readonly asked: number;
}

export const useFinding = create<FindingStore>(() => ({ asked: 0 }));

/** Find something out and do with it what is wanted; what goes wrong becomes a message. */
export async function findOut(work: () => Promise<void>): Promise<void> {
  useFinding.setState(({ asked }) => ({ asked: asked + 1 }));
  try {
    await work();
  } catch (error) {
    useMessages.getState().warn(error instanceof Error ? error.message : String(error));
  } finally {
    useFinding.setState(({ asked }) => ({ asked: asked - 1 }));
  }
}
