import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Outbox, type OutboxEvents, type Outgoing } from "@/api/outbox";
import type { Outcome, ProjectState } from "@/api/types";
import type { Edit } from "@/model/composite";
import { sampleState } from "@/testing/samples";

const renamed = (name: string): Edit => ({ kind: "name_layer", layer_id: "a", name });

interface Sent {
  readonly path: string;
  readonly body: { readonly key?: string; readonly parent?: string; readonly edit?: Edit };
}

/** A stand-in for the network: what was sent, and how the next requests end. */
class Network {
  readonly sent: Sent[] = [];
  down = false;
  refuses: string | null = null;
  #heads = 0;

  readonly fetch = async (path: string, init: RequestInit): Promise<Response> => {
    if (this.down) throw new TypeError("Failed to fetch");
    this.sent.push({ path, body: JSON.parse(String(init.body)) });
    if (this.refuses) {
      const problem = JSON.stringify({ detail: this.refuses });
      this.refuses = null;
      return new Response(problem, { status: 409 });
    }
    this.#heads += 1;
    const state = sampleState({ head: `head ${this.#heads}`, undo_to: "before" });
    const answer = path.endsWith("/edits") ? { state, outcome: "applied" } : state;
    return new Response(JSON.stringify(answer), { status: 200 });
  };
}

class Listener implements OutboxEvents {
  state: ProjectState | null = null;
  waiting: readonly Outgoing[] = [];
  connection: boolean[] = [];
  outcomes: Outcome[] = [];
  refusals: string[] = [];
  onState = (state: ProjectState) => {
    this.state = state;
  };
  onWaiting = (waiting: readonly Outgoing[]) => {
    this.waiting = waiting;
  };
  onConnection = (fine: boolean) => {
    this.connection.push(fine);
  };
  onOutcome = (outcome: Outcome) => {
    this.outcomes.push(outcome);
  };
  onRefused = (reason: string) => {
    this.refusals.push(reason);
  };
}

let network: Network;
let listener: Listener;

beforeEach(() => {
  localStorage.clear();
  network = new Network();
  listener = new Listener();
  vi.stubGlobal("fetch", network.fetch);
});

afterEach(() => {
  vi.unstubAllGlobals();
});

const settled = () => vi.waitFor(() => expect(listener.waiting).toEqual([]));

test("edits are sent in order, each on the state that the one before it made", async () => {
  const outbox = new Outbox(sampleState(), listener);

  outbox.push(renamed("one"));
  outbox.push(renamed("two"));
  await settled();

  expect(network.sent.map(({ body }) => body.parent)).toEqual(["first", "head 1"]);
  expect(network.sent.map(({ body }) => body.edit)).toEqual([renamed("one"), renamed("two")]);
  expect(listener.state?.head).toBe("head 2");
});

test("an edit waits while the service is away, and is sent once with the same key", async () => {
  network.down = true;
  const outbox = new Outbox(sampleState(), listener);
  outbox.push(renamed("one"));
  await vi.waitFor(() => expect(listener.connection).toContain(false));
  const key = (listener.waiting[0] as { key: string }).key;

  network.down = false;
  outbox.retry();
  await settled();

  expect(network.sent).toHaveLength(1);
  expect(network.sent[0]?.body.key).toBe(key);
  expect(listener.connection.at(-1)).toBe(true);
});

test("what waits outlives the window and is sent by the next one", async () => {
  network.down = true;
  const closed = new Outbox(sampleState(), listener);
  closed.push(renamed("one"));
  await vi.waitFor(() => expect(listener.connection).toContain(false));
  closed.close();

  network.down = false;
  new Outbox(sampleState(), listener);
  await settled();

  expect(network.sent.map(({ body }) => body.edit)).toEqual([renamed("one")]);
  expect(localStorage.length).toBe(0);
});

test("a refused edit is told, dropped, and does not hold up the next", async () => {
  network.refuses = "That layer is locked.";
  const outbox = new Outbox(sampleState(), listener);

  outbox.push(renamed("one"));
  outbox.push(renamed("two"));
  await settled();

  expect(listener.refusals).toEqual(["That layer is locked."]);
  expect(network.sent[1]?.body).toMatchObject({ parent: "first", edit: renamed("two") });
});

test("undo goes to where the last answer says it leads", async () => {
  const outbox = new Outbox(sampleState(), listener);

  outbox.push(renamed("one"));
  outbox.undo();
  await settled();

  expect(network.sent[1]).toEqual({
    path: "/api/projects/project/standing",
    body: { to: "before", came_from: "head 1" },
  });
});

test("undo at the very beginning sends nothing", async () => {
  const outbox = new Outbox(sampleState(), listener);

  outbox.undo();
  await settled();

  expect(network.sent).toEqual([]);
});
