/**
 * Edits on their way to the service: in order, each counted once, kept in the browser
 * until the service has answered, so that neither a lost connection nor a closed window
 * loses one.
 */

import { replaceEqualDeep } from "@tanstack/react-query";
import { v4 as newId } from "uuid";
import { sendEdit, sendStanding } from "@/api/calls";
import { Problem } from "@/api/http";
import { KeptQueue } from "@/api/keptQueue";
import type { Outcome, ProjectState } from "@/api/types";
import type { Edit } from "@/model/composite";
import { compositeOf, type Outgoing, type Standing, standingAfter } from "@/model/standing";

export interface OutboxEvents {
  /** Where the project stands once all that waits, in this order, is answered. */
  onStanding(standing: Standing, waiting: readonly Outgoing[]): void;
  /** Why nothing is sent at the moment, or null where it is. */
  onHeld(reason: string | null): void;
  /** The service fails at the first thing that waits; null where it no longer does. */
  onParked(reason: string | null): void;
  /** An edit met a newer state. */
  onOutcome(outcome: Outcome): void;
  /** A move was left out: another window had moved the project meanwhile. */
  onOvertaken(): void;
  /** Something was left out since the project is not as it was known; nothing waits now. */
  onStale(): void;
  /** The service refused an edit; it is not sent again. */
  onRefused(reason: string): void;
  /** The browser has no room to keep what waits. */
  onNotKept(): void;
}

const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 5000;
const TRIES_BEFORE_PARKING = 3;
/** So many states are remembered, so that going back to them shows at once. */
const MOST_SEEN = 40;

/** The service, or what stands before it, cannot answer now but will later. */
const LATER: ReadonlySet<number> = new Set([401, 408, 425, 429, 502, 503, 504, 507]);

/** How sending something ended; "failed" is a fault of the service, "later" is none. */
interface Sending {
  readonly fate: "done" | "refused" | "later" | "failed";
  readonly reason: string;
}

const DONE: Sending = { fate: "done", reason: "" };

/** Decides when to try again. */
class Patience {
  #pause = FIRST_PAUSE_MS;
  #failures = 0;
  #item: Outgoing | null = null;

  /** Return for how many milliseconds to wait; null for until someone asks. */
  after(item: Outgoing, fate: Sending["fate"]): number | null {
    if (item !== this.#item || fate === "done") this.#pause = FIRST_PAUSE_MS;
    this.#failures = item === this.#item && fate === "failed" ? this.#failures : 0;
    this.#item = item;
    if (fate === "done") return 0;
    if (fate === "failed") this.#failures += 1;
    if (this.#failures >= TRIES_BEFORE_PARKING) return null;
    const pause = this.#pause;
    this.#pause = Math.min(pause * 2, LONGEST_PAUSE_MS);
    return pause;
  }
}

/** Of desks that were left in this window: the end of what they were sending. */
const leaving = new Map<string, Promise<void>>();

export class Outbox {
  readonly #projectId: string;
  readonly #events: OutboxEvents;
  readonly #kept: KeptQueue;
  #state: ProjectState;
  readonly #seen = new Map<string, ProjectState>();
  #waiting: Outgoing[] = [];
  /** Where it stands as it was told last. */
  #told: Standing;
  /** The one that may have reached the service. */
  #attempted: Outgoing | null = null;
  /** What was taken back, the last one last: an edit before it was sent, or null. */
  #takenBack: (Edit | null)[] = [];
  /** Keys of edits that the project does not stand on after all. */
  readonly #fallen = new Set<string>();
  /** Whether the project may stand elsewhere than is known. */
  #isStale = false;
  #sending = false;
  #drained: Promise<void>;
  #toldNotKept = false;
  #closed = false;
  #parked = false;
  #wake: (() => void) | null = null;

  constructor(state: ProjectState, events: OutboxEvents) {
    this.#projectId = state.id;
    this.#state = state;
    this.#seen.set(state.head, state);
    this.#told = this.#standing();
    this.#events = events;
    this.#kept = new KeptQueue(state.id);
    this.#drained = this.#drain(() => this.#takeOver());
  }

  /** Send an edit, after those before it. */
  push(edit: Edit): void {
    this.#takenBack = [];
    this.#add({ kind: "edit", key: newId(), edit });
  }

  /** Take the last change back: at once where it was not sent yet. */
  undo(): void {
    const last = this.#waiting.at(-1);
    if (last?.kind === "edit" && last !== this.#attempted) {
      this.#waiting.pop();
      this.#takenBack.push(last.edit);
      this.#tell();
    } else {
      this.#takenBack.push(null);
      this.#add({ kind: "undo", key: newId(), of: this.#standing().head });
    }
  }

  /** Do again what was taken back last. */
  redo(): void {
    const edit = this.#takenBack.pop();
    if (edit) this.#add({ kind: "edit", key: newId(), edit });
    else this.#add({ kind: "redo", key: newId(), of: this.#standing().head });
  }

  /** Go to any state of the history. */
  stand(to: string): void {
    this.#takenBack = [];
    this.#add({ kind: "stand", key: newId(), to });
  }

  /** The project has another name from now on. */
  rename(name: string): void {
    this.#state = { ...this.#state, name };
    this.#tell();
  }

  /**
   * Take over a state that came by another way, such as from another window. Not while
   * something waits: it may be in that state already, and would show twice.
   */
  catchUp(state: ProjectState): void {
    if (this.#waiting.length > 0 || !this.#know(state)) return;
    this.#tell();
  }

  /** Try again at once, for instance because the connection is back. */
  retry(): void {
    this.#wake?.();
  }

  /** Do without the change that the service fails at, and go on with the next. */
  leaveOut(): void {
    // Not while it is being tried again: then it may be saved after all.
    if (!this.#parked || !this.#wake) return;
    this.#drop();
    this.#park(null);
    this.#tell();
    this.#wake();
  }

  /** Stop sending; what waits is kept for whoever opens the project next. */
  close(): void {
    this.#closed = true;
    this.#wake?.();
    const left = this.#drained.then(() => this.#kept.close());
    leaving.set(this.#projectId, left);
    void left.then(() => {
      if (leaving.get(this.#projectId) === left) leaving.delete(this.#projectId);
    });
  }

  async #takeOver(): Promise<void> {
    await leaving.get(this.#projectId);
    // What a browser refuses to hand over must not hold up what is done now.
    const left = await this.#kept.takeOver().catch(() => []);
    this.#waiting.unshift(...left);
    if (this.#waiting.length > 0) this.#tell();
  }

  #add(item: Outgoing): void {
    this.#waiting.push(item);
    this.#tell();
    if (!this.#sending) this.#drained = this.#drain();
  }

  #tell(): void {
    const kept = this.#kept.save(this.#waiting);
    if (this.#closed) return;
    if (!kept && !this.#toldNotKept) this.#events.onNotKept();
    this.#toldNotKept ||= !kept;
    this.#told = this.#standing();
    this.#events.onStanding(this.#told, [...this.#waiting]);
  }

  #standing(): Standing {
    const standing = standingAfter(this.#state, this.#seen, this.#waiting);
    return { ...standing, canRedo: standing.canRedo || this.#takenBack.some(Boolean) };
  }

  /** Take over a state, unless a newer one is known; then it returns false. */
  #know(state: ProjectState): boolean {
    if (state.changes < this.#state.changes) return false;
    // What is as it was shown is the very same: only what changed is drawn anew.
    this.#state = replaceEqualDeep(this.#shown(), state);
    this.#seen.delete(state.head);
    this.#seen.set(state.head, this.#state);
    const [oldest] = this.#seen.keys();
    if (this.#seen.size > MOST_SEEN && oldest !== undefined) this.#seen.delete(oldest);
    return true;
  }

  /** Return the state that is shown, with what is shown on top of it. */
  #shown(): ProjectState {
    const { base, unsaved } = this.#told;
    return { ...base, composite: compositeOf(base, unsaved) as ProjectState["composite"] };
  }

  /** Do without the first thing that waits; what was asked of it is left out too. */
  #drop(): void {
    const item = this.#waiting.shift();
    if (item?.kind === "edit") this.#fallen.add(item.key);
  }

  #park(reason: string | null): void {
    this.#parked = reason !== null;
    if (!this.#closed) this.#events.onParked(reason);
  }

  async #drain(first: () => Promise<void> = async () => undefined): Promise<void> {
    this.#sending = true;
    try {
      await first();
      const patience = new Patience();
      while (this.#waiting[0] && !this.#closed) {
        const item = this.#waiting[0];
        const sent = await this.#trySending(item);
        const pause = patience.after(item, sent.fate);
        if (pause === null) this.#park(sent.reason);
        if (pause !== 0) await this.#rest(pause);
      }
    } finally {
      // Whatever was thrown: what is added next is sent, and what waits before it.
      this.#sending = false;
    }
  }

  async #trySending(item: Outgoing): Promise<Sending> {
    let answer: ProjectState | null;
    try {
      answer = await this.#send(item);
    } catch (error) {
      const ended = sendingEnded(error);
      if (ended.fate === "refused") {
        this.#drop();
        this.#isStale = true;
        if (!this.#closed) this.#events.onRefused(ended.reason);
        this.#goOn();
        return DONE;
      }
      this.#tellHeld(ended.fate === "later" ? ended.reason : null);
      return ended;
    }
    // While it still counts as waiting: the answer is mostly what is shown already.
    if (answer) this.#know(answer);
    this.#waiting.shift();
    this.#goOn();
    return DONE;
  }

  /** Tell how it stands now that one thing fewer waits. */
  #goOn(): void {
    if (this.#waiting.length === 0) this.#fallen.clear();
    if (this.#parked) this.#park(null);
    this.#tellHeld(null);
    this.#tell();
    if (this.#waiting.length > 0 || !this.#isStale) return;
    this.#isStale = false;
    if (!this.#closed) this.#events.onStale();
  }

  #tellHeld(reason: string | null): void {
    if (!this.#closed) this.#events.onHeld(reason);
  }

  async #send(item: Outgoing): Promise<ProjectState | null> {
    this.#attempted = item;
    if (item.kind === "edit") {
      const answer = await sendEdit(this.#projectId, {
        key: item.key,
        parent: this.#state.head,
        edit: item.edit,
      });
      if (answer.outcome === "branched") this.#fallen.add(item.key);
      if (!this.#closed) this.#events.onOutcome(answer.outcome);
      return answer.state;
    }
    const to = this.#target(item);
    if (!to) return null;
    const came_from = this.#state.head;
    const state = await sendStanding(this.#projectId, { key: item.key, to, came_from });
    if (state.head !== to) this.#tellOvertaken();
    return state;
  }

  /** Return where a move leads; null where what it was asked of is not there any more. */
  #target(item: Exclude<Outgoing, { kind: "edit" }>): string | null {
    if (item.kind === "stand") return item.to;
    if (item.of !== null && item.of !== this.#state.head) {
      if (!this.#fallen.has(item.of)) this.#tellOvertaken();
      return null;
    }
    return item.kind === "undo" ? this.#state.undo_to : this.#state.redo_to;
  }

  #tellOvertaken(): void {
    this.#isStale = true;
    if (!this.#closed) this.#events.onOvertaken();
  }

  /** Wait some time, or without end, until someone asks to go on. */
  #rest(ms: number | null): Promise<void> {
    if (this.#closed) return Promise.resolve();
    return new Promise((resolve) => {
      const goOn = () => {
        clearTimeout(timer);
        this.#wake = null;
        resolve();
      };
      const timer = ms === null ? undefined : setTimeout(goOn, ms);
      this.#wake = goOn;
    });
  }
}

function sendingEnded(error: unknown): Sending {
  if (!(error instanceof Problem)) return { fate: "later", reason: "Connection lost" };
  const reason = error.message;
  if (LATER.has(error.status)) return { fate: "later", reason };
  return { fate: error.status >= 500 ? "failed" : "refused", reason };
}
