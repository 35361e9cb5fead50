/**
 * What waits to be sent, kept in the browser for as long as it waits.
 *
 * Each window keeps a queue of its own, marked as in use by a lock that ends with the
 * window. What a closed window left behind is taken over by the next one. Where the
 * browser has no locks (pages that came over an insecure connection) a queue may be
 * taken over while its window lives: all that is sent has a key, and counts once.
 */

import { v4 as newId } from "uuid";
import { keep, kept, keptNames } from "@/browser/storage";
import type { Outgoing } from "@/model/standing";

const PREFIX = "glyphaneme.waiting.";

export class KeptQueue {
  readonly #projectId: string;
  readonly #name: string;
  readonly #unlocked: Promise<unknown> | undefined;
  #letGo: () => void = () => undefined;

  /** A queue for this window; others see at once that it is in use. */
  constructor(projectId: string) {
    this.#projectId = projectId;
    this.#name = `${PREFIX}${projectId}.${newId()}`;
    const used = new Promise<void>((resolve) => {
      this.#letGo = resolve;
    });
    // A browser may refuse locks: then a queue is as it is where there are none.
    this.#unlocked = navigator.locks?.request(this.#name, () => used).catch(() => undefined);
  }

  /** Keep what waits; false where the browser has no room for it. */
  save(waiting: readonly Outgoing[]): boolean {
    return keep(this.#name, waiting.length === 0 ? null : JSON.stringify(waiting));
  }

  /** Return what closed windows left behind; it is kept here from now on. */
  async takeOver(): Promise<readonly Outgoing[]> {
    const found: Outgoing[] = [];
    for (const name of this.#othersOfProject()) {
      await whileUnused(name, () => {
        found.push(...readQueue(name));
        this.save(found);
        keep(name, null);
      });
    }
    return found;
  }

  /** Leave what is kept to the next window; ends when that may take it. */
  async close(): Promise<void> {
    this.#letGo();
    await this.#unlocked;
  }

  #othersOfProject(): readonly string[] {
    // The name without a window is how it was kept before windows had queues of their own.
    const shared = `${PREFIX}${this.#projectId}`;
    return keptNames().filter(
      (name) => name !== this.#name && (name === shared || name.startsWith(`${shared}.`)),
    );
  }
}

async function whileUnused(name: string, take: () => void): Promise<void> {
  if (!navigator.locks) return take();
  await navigator.locks.request(name, { ifAvailable: true }, (lock) => {
    if (lock) take();
  });
}

function readQueue(name: string): readonly Outgoing[] {
  try {
    const found: unknown = JSON.parse(kept(name) ?? "[]");
    return Array.isArray(found) ? found.map(withKey).filter(isOutgoing) : [];
  } catch {
    return [];
  }
}

/** Complete what an earlier version of the page kept. */
function withKey(item: object): object {
  return { key: newId(), of: null, ...item };
}

function isOutgoing(item: object): item is Outgoing {
  if (!("kind" in item)) return false;
  if (item.kind === "edit") return "edit" in item;
  return item.kind === "stand" ? "to" in item : item.kind === "undo" || item.kind === "redo";
}
