/**
 * Edits on their way to the service: in order, each counted once, kept in the browser
 * until the service has answered, so that neither a lost connection nor a closed window
 * loses one.
 */

import { sendEdit, sendStanding } from "@/api/calls";
import { Problem } from "@/api/http";
import type { Outcome, ProjectState } from "@/api/types";
import type { Edit } from "@/model/composite";

export type Outgoing =
  | { readonly kind: "edit"; readonly key: string; readonly edit: Edit }
  | { readonly kind: "undo" | "redo" }
  | { readonly kind: "stand"; readonly to: string };

export interface OutboxEvents {
  /** The service answered: this is the project's state now. */
  onState(state: ProjectState): void;
  /** What still waits, in order. */
  onWaiting(waiting: readonly Outgoing[]): void;
  onConnection(fine: boolean): void;
  /** An edit met a newer state. */
  onOutcome(outcome: Outcome): void;
  /** The service refused an edit; it is not sent again. */
  onRefused(reason: string): void;
}

const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 5000;

export class Outbox {
  readonly #projectId: string;
  readonly #events: OutboxEvents;
  #state: ProjectState;
  #waiting: Outgoing[];
  #sending = false;
  #closed = false;
  #wake: (() => void) | null = null;

  constructor(state: ProjectState, events: OutboxEvents) {
    this.#projectId = state.id;
    this.#state = state;
    this.#events = events;
    this.#waiting = readKept(state.id);
    if (this.#waiting.length > 0) {
      this.#tell();
      void this.#drain();
    }
  }

  /** Send an edit, after those before it. */
  push(edit: Edit): void {
    this.#add({ kind: "edit", key: crypto.randomUUID(), edit });
  }

  undo(): void {
    this.#add({ kind: "undo" });
  }

  redo(): void {
    this.#add({ kind: "redo" });
  }

  /** Go to any state of the history. */
  stand(to: string): void {
    this.#add({ kind: "stand", to });
  }

  /** Take over a state that came by another way, such as from another window. */
  catchUp(state: ProjectState): void {
    this.#state = state;
    this.#events.onState(state);
  }

  /** Try again at once, for instance because the connection is back. */
  retry(): void {
    this.#wake?.();
  }

  close(): void {
    this.#closed = true;
    this.#wake?.();
  }

  #add(item: Outgoing): void {
    this.#waiting.push(item);
    this.#tell();
    if (!this.#sending) void this.#drain();
  }

  #tell(): void {
    keep(this.#projectId, this.#waiting);
    this.#events.onWaiting([...this.#waiting]);
  }

  async #drain(): Promise<void> {
    this.#sending = true;
    let pause = FIRST_PAUSE_MS;
    for (let item = this.#waiting[0]; item && !this.#closed; item = this.#waiting[0]) {
      const answered = await this.#trySending(item);
      if (answered) pause = FIRST_PAUSE_MS;
      else {
        await this.#rest(pause);
        pause = Math.min(pause * 2, LONGEST_PAUSE_MS);
      }
    }
    this.#sending = false;
  }

  /** Send one item; false where the service could not be reached. */
  async #trySending(item: Outgoing): Promise<boolean> {
    try {
      this.#state = (await this.#send(item)) ?? this.#state;
    } catch (error) {
      const refused = error instanceof Problem && error.status < 500;
      if (!refused) {
        this.#events.onConnection(false);
        return false;
      }
      this.#events.onRefused(error.message);
    }
    this.#waiting.shift();
    this.#events.onConnection(true);
    // First the state, then what no longer waits: nothing flickers in between.
    this.#events.onState(this.#state);
    this.#tell();
    return true;
  }

  async #send(item: Outgoing): Promise<ProjectState | null> {
    if (item.kind === "edit") {
      const answer = await sendEdit(this.#projectId, {
        key: item.key,
        parent: this.#state.head,
        edit: item.edit,
      });
      this.#events.onOutcome(answer.outcome);
      return answer.state;
    }
    const to = this.#target(item);
    if (!to) return null;
    return sendStanding(this.#projectId, { to, came_from: this.#state.head });
  }

  #target(item: Exclude<Outgoing, { kind: "edit" }>): string | null {
    if (item.kind === "stand") return item.to;
    return item.kind === "undo" ? this.#state.undo_to : this.#state.redo_to;
  }

  #rest(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.#wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }
}

function keyOf(projectId: string): string {
  return `glyphaneme.waiting.${projectId}`;
}

function keep(projectId: string, waiting: readonly Outgoing[]): void {
  if (waiting.length === 0) localStorage.removeItem(keyOf(projectId));
  else localStorage.setItem(keyOf(projectId), JSON.stringify(waiting));
}

function readKept(projectId: string): Outgoing[] {
  const kept = localStorage.getItem(keyOf(projectId));
  return kept ? (JSON.parse(kept) as Outgoing[]) : [];
}
