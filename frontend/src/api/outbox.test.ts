// @vitest-environment jsdom

import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Outbox, type OutboxEvents } from "@/api/outbox";
import type { Outcome, ProjectState } from "@/api/types";
import type { Edit } from "@/model/composite";
import { compositeOf, type Outgoing, type Standing } from "@/model/standing";
import { sampleComposite, sampleLayer, sampleState } from "@/testing/samples";

const renamed = (name: string): Edit => ({ kind: "name_layer", layer_id: "a", name });

interface Sent {
  readonly path: string;
  readonly body: {
    readonly key?: string;
    readonly parent?: string;
    readonly edit?: Edit;
    readonly to?: string;
  };
}

/** A stand-in for the network: what was sent, and how the next requests end. */
class Network {
  readonly sent: Sent[] = [];
  down = false;
  /** Statuses of the next answers; then all goes well. */
  statuses: number[] = [];
  /** What an answer waits for. */
  slow: Promise<void> | null = null;
  /** Where the project stands after the next answers, where that is not what was asked. */
  standsAt: string | null = null;
  before: string | null = "before";
  outcome: Outcome = "applied";
  composite = sampleState().composite;
  #heads = 0;

  readonly fetch = async (path: string, init: RequestInit): Promise<Response> => {
    if (this.down) throw new TypeError("Failed to fetch");
    this.sent.push({ path, body: JSON.parse(String(init.body)) });
    await this.slow;
    const status = this.statuses.shift();
    if (status) {
      return new Response(JSON.stringify({ detail: `Status ${status} for a reason.` }), { status });
    }
    this.#heads += 1;
    const { key, to } = JSON.parse(String(init.body));
    const head = this.standsAt ?? to ?? key;
    const state = sampleState({
      changes: 10 + this.#heads,
      head,
      undo_to: this.before,
      composite: this.composite,
    });
    const { outcome } = this;
    const answer = path.endsWith("/edits") ? { state, outcome } : state;
    return new Response(JSON.stringify(answer), { status: 200 });
  };
}

class Listener implements OutboxEvents {
  state: ProjectState | null = null;
  waiting: readonly Outgoing[] = [];
  held: (string | null)[] = [];
  parked: string | null = null;
  outcomes: Outcome[] = [];
  refusals: string[] = [];
  notKept = 0;
  standing: Standing | null = null;
  overtaken = 0;
  stale = 0;
  onStale = () => {
    this.stale += 1;
  };
  onStanding = (standing: Standing, waiting: readonly Outgoing[]) => {
    this.standing = standing;
    this.state = standing.latest;
    this.waiting = waiting;
  };
  onOvertaken = () => {
    this.overtaken += 1;
  };
  onHeld = (reason: string | null) => {
    this.held.push(reason);
  };
  onParked = (reason: string | null) => {
    this.parked = reason;
  };
  onOutcome = (outcome: Outcome) => {
    this.outcomes.push(outcome);
  };
  onRefused = (reason: string) => {
    this.refusals.push(reason);
  };
  onNotKept = () => {
    this.notKept += 1;
  };
}

/** A stand-in for the browser's locks. */
class Locks {
  readonly #held = new Set<string>();

  async request(
    name: string,
    options: { ifAvailable?: boolean } | (() => Promise<void>),
    given?: (lock: object | null) => void,
  ): Promise<void> {
    const take = typeof options === "function" ? options : given;
    if (this.#held.has(name)) return void given?.(null);
    this.#held.add(name);
    await take?.({});
    this.#held.delete(name);
  }
}

let network: Network;
let outboxes: Outbox[];

/** Open an outbox that is closed after the test: what waits in it is sent no more. */
function opened(...given: ConstructorParameters<typeof Outbox>): Outbox {
  const outbox = new Outbox(...given);
  outboxes.push(outbox);
  return outbox;
}
let listener: Listener;

beforeEach(() => {
  localStorage.clear();
  outboxes = [];
  network = new Network();
  listener = new Listener();
  vi.stubGlobal("fetch", network.fetch);
  Object.defineProperty(navigator, "locks", { value: new Locks(), configurable: true });
});

afterEach(() => {
  for (const outbox of outboxes) outbox.close();
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

const settled = () => vi.waitFor(() => expect(listener.waiting).toEqual([]));
const held = () => vi.waitFor(() => expect(listener.held.at(-1)).toEqual(expect.any(String)));

test("edits are sent in order, each on the state that the one before it made", async () => {
  const outbox = opened(sampleState(), listener);

  outbox.push(renamed("one"));
  outbox.push(renamed("two"));
  await settled();

  const [first, second] = network.sent.map(({ body }) => body.key);
  expect(network.sent.map(({ body }) => body.parent)).toEqual(["first", first]);
  expect(network.sent.map(({ body }) => body.edit)).toEqual([renamed("one"), renamed("two")]);
  expect(listener.state?.head).toBe(second);
});

test("an edit waits while the service is away, and is sent once with the same key", async () => {
  network.down = true;
  const outbox = opened(sampleState(), listener);
  outbox.push(renamed("one"));
  await held();
  const key = (listener.waiting[0] as { key: string }).key;

  network.down = false;
  outbox.retry();
  await settled();

  expect(network.sent).toHaveLength(1);
  expect(network.sent[0]?.body.key).toBe(key);
  expect(listener.held.at(-1)).toBeNull();
});

test("what waits outlives the window and is sent by the next one", async () => {
  network.down = true;
  const closed = opened(sampleState(), listener);
  closed.push(renamed("one"));
  await held();
  closed.close();

  network.down = false;
  opened(sampleState(), listener);
  await settled();

  expect(network.sent.map(({ body }) => body.edit)).toEqual([renamed("one")]);
  expect(localStorage.length).toBe(0);
});

test("a refused edit is told, dropped, and does not hold up the next", async () => {
  network.statuses = [409];
  const outbox = opened(sampleState(), listener);

  outbox.push(renamed("one"));
  outbox.push(renamed("two"));
  await settled();

  expect(listener.refusals).toEqual(["Status 409 for a reason."]);
  expect(listener.stale).toBe(1);
  expect(network.sent[1]?.body).toMatchObject({ parent: "first", edit: renamed("two") });
});

test("undo goes to where the last answer says it leads", async () => {
  const outbox = opened(sampleState(), listener);

  outbox.push(renamed("one"));
  await vi.waitFor(() => expect(network.sent).toHaveLength(1));
  outbox.undo();
  await settled();

  expect(network.sent[1]).toEqual({
    path: "/api/projects/project/standing",
    body: { key: expect.any(String), to: "before", came_from: network.sent[0]?.body.key },
  });
});

test("undo at the very beginning sends nothing", async () => {
  const outbox = opened(sampleState(), listener);

  outbox.undo();
  await settled();

  expect(network.sent).toEqual([]);
});

test("an undo that was sent without an answer is sent again with the same key", async () => {
  network.statuses = [503];
  const outbox = opened(sampleState({ undo_to: "before" }), listener);

  outbox.undo();
  await held();
  outbox.retry();
  await settled();

  const keys = network.sent.map(({ body }) => body.key);
  expect(keys).toEqual([expect.any(String), keys[0]]);
});

test.each([401, 408, 429, 502, 503, 504, 507])(
  "status %d holds what waits and drops nothing",
  async (status) => {
    network.statuses = [status, status];
    const outbox = opened(sampleState(), listener);

    outbox.push(renamed("one"));
    await held();
    expect(listener.waiting).toHaveLength(1);
    outbox.retry();
    await vi.waitFor(() => expect(network.sent).toHaveLength(2));
    outbox.retry();
    await settled();

    expect(listener.refusals).toEqual([]);
    expect(listener.parked).toBeNull();
    expect(network.sent).toHaveLength(3);
  },
);

test("a change that the service fails at is parked after some tries, not lost", async () => {
  vi.useFakeTimers();
  network.statuses = [500, 500, 500, 500];
  const outbox = opened(sampleState(), listener);

  outbox.push(renamed("one"));
  outbox.push(renamed("two"));
  await vi.advanceTimersByTimeAsync(60_000);

  expect(network.sent).toHaveLength(3);
  expect(listener.parked).toBe("Status 500 for a reason.");
  expect(listener.waiting).toHaveLength(2);
  outbox.retry();
  await vi.advanceTimersByTimeAsync(60_000);
  expect(network.sent).toHaveLength(4);
  expect(listener.parked).not.toBeNull();
  outbox.retry();
  await vi.advanceTimersByTimeAsync(1);
  expect(listener.parked).toBeNull();
  expect(listener.waiting).toEqual([]);
});

test("a parked change can be left out, and the next is sent", async () => {
  vi.useFakeTimers();
  network.statuses = [500, 500, 500];
  const outbox = opened(sampleState(), listener);
  outbox.push(renamed("one"));
  outbox.push(renamed("two"));
  await vi.advanceTimersByTimeAsync(60_000);

  outbox.leaveOut();
  await vi.advanceTimersByTimeAsync(1);

  expect(listener.parked).toBeNull();
  expect(listener.waiting).toEqual([]);
  expect(network.sent.at(-1)?.body.edit).toEqual(renamed("two"));
});

test("a parked change that is being tried again is not left out, nor the next one lost", async () => {
  vi.useFakeTimers();
  network.statuses = [500, 500, 500];
  const outbox = opened(sampleState(), listener);
  outbox.push(renamed("one"));
  outbox.push(renamed("two"));
  await vi.advanceTimersByTimeAsync(60_000);
  let answer: () => void = () => undefined;
  network.slow = new Promise((resolve) => {
    answer = resolve;
  });

  outbox.retry();
  await vi.advanceTimersByTimeAsync(1);
  outbox.leaveOut();
  answer();
  await vi.advanceTimersByTimeAsync(1);

  const saved = network.sent.slice(-2).map(({ body }) => body.edit);
  expect(saved).toEqual([renamed("one"), renamed("two")]);
  expect(listener.waiting).toEqual([]);
});

test("an older state than the known one is dropped", async () => {
  const outbox = opened(sampleState({ changes: 5, head: "five" }), listener);

  outbox.catchUp(sampleState({ changes: 4, head: "four" }));
  expect(listener.standing).toBeNull();
  outbox.catchUp(sampleState({ changes: 6, head: "six" }));

  expect(listener.state?.head).toBe("six");
});

test("a state from elsewhere waits while something is sent", async () => {
  network.down = true;
  const outbox = opened(sampleState(), listener);
  outbox.push(renamed("one"));

  outbox.catchUp(sampleState({ changes: 9 }));

  expect(listener.state?.changes).toBe(1);
});

test("an answer that comes after the desk was left is told to no one, and not sent again", async () => {
  let answer: () => void = () => undefined;
  network.slow = new Promise((resolve) => {
    answer = resolve;
  });
  const outbox = opened(sampleState(), listener);
  outbox.push(renamed("one"));
  await vi.waitFor(() => expect(network.sent).toHaveLength(1));

  outbox.close();
  answer();
  await vi.waitFor(() => expect(localStorage.length).toBe(0));

  expect(listener.state?.head).toBe("first");
  opened(sampleState(), listener);
  await new Promise((resolve) => setTimeout(resolve, 20));
  expect(network.sent).toHaveLength(1);
});

test("two windows keep a queue each, and neither takes the other's", async () => {
  network.down = true;
  const here = opened(sampleState(), listener);
  const other = new Listener();
  const there = opened(sampleState(), other);
  here.push(renamed("here"));
  there.push(renamed("there"));
  await held();

  expect(localStorage.length).toBe(2);
  network.down = false;
  there.retry();
  await vi.waitFor(() => expect(other.waiting).toEqual([]));

  expect(network.sent.map(({ body }) => body.edit)).toEqual([renamed("there")]);
  expect(localStorage.length).toBe(1);
});

test("what an earlier version kept for all windows is sent, and rubbish passed over", async () => {
  const earlier = [
    { kind: "edit", key: "k", edit: renamed("old") },
    { kind: "undo" },
    { kind: "?" },
  ];
  localStorage.setItem("glyphaneme.waiting.project", JSON.stringify(earlier));
  localStorage.setItem("glyphaneme.waiting.project.dead", "{not json");
  localStorage.setItem("glyphaneme.waiting.another", JSON.stringify(earlier));

  opened(sampleState(), listener);
  await vi.waitFor(() => expect(network.sent).toHaveLength(2));
  await settled();

  expect(network.sent[0]?.body).toMatchObject({ key: "k", edit: renamed("old") });
  expect(network.sent[1]?.body.key).toEqual(expect.any(String));
  expect(Object.keys(localStorage)).toEqual(["glyphaneme.waiting.another"]);
});

test("a browser without room says so, and what waits is sent all the same", async () => {
  vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
  const outbox = opened(sampleState(), listener);

  outbox.push(renamed("one"));
  await settled();

  expect(listener.notKept).toBe(1);
  expect(network.sent).toHaveLength(1);
});

test("a browser that refuses locks does not hold anything up", async () => {
  const refused = () => Promise.reject(new DOMException("no", "SecurityError"));
  Object.defineProperty(navigator, "locks", {
    value: { request: refused },
    configurable: true,
  });
  localStorage.setItem("glyphaneme.waiting.p.other", "[]");
  const before = opened(sampleState(), listener);
  before.close();

  const outbox = opened(sampleState(), listener);
  outbox.push(renamed("one"));
  await settled();

  expect(network.sent).toHaveLength(1);
});

test("what is added after something was thrown is sent, and what waited before it", async () => {
  const outbox = opened(sampleState(), listener);
  await vi.waitFor(() => expect(listener.waiting).toEqual([]));
  const told = listener.onHeld;
  listener.onHeld = () => {
    listener.onHeld = told;
    throw new Error("a listener that fails");
  };
  const thrown = vi.fn();
  process.once("unhandledRejection", thrown);
  outbox.push(renamed("one"));
  await vi.waitFor(() => expect(thrown).toHaveBeenCalled());

  outbox.push(renamed("two"));
  await settled();

  expect(network.sent.map(({ body }) => body.edit)).toEqual([renamed("one"), renamed("two")]);
});

const begin = (changes: Partial<ProjectState> = {}) =>
  opened(sampleState({ changes: 5, head: "two", undo_to: "one", ...changes }), listener);
const bodies = () => network.sent.map(({ body }) => body);
const sent = (count: number) => vi.waitFor(() => expect(network.sent).toHaveLength(count));

/** Let answers wait until they are asked for. */
function holdAnswers(): () => void {
  let answer: () => void = () => undefined;
  network.slow = new Promise((resolve) => {
    answer = resolve;
  });
  return () => {
    network.slow = null;
    answer();
  };
}

test("an edit that was not sent is taken back at once, and done again at once", async () => {
  const answer = holdAnswers();
  const outbox = begin();
  outbox.push(renamed("first"));
  await sent(1);
  outbox.push(renamed("second"));

  outbox.undo();
  expect(listener.standing?.unsaved).toEqual([renamed("first")]);
  expect(listener.standing?.canRedo).toBe(true);
  outbox.redo();
  expect(listener.standing?.unsaved).toEqual([renamed("first"), renamed("second")]);
  outbox.undo();
  answer();
  await settled();

  expect(bodies().map(({ edit }) => edit)).toEqual([renamed("first")]);
});

test("undo of an edit on its way takes back that edit, and shows so at once", async () => {
  const answer = holdAnswers();
  network.before = "two";
  const outbox = begin();
  outbox.push(renamed("first"));
  await sent(1);

  outbox.undo();
  expect(listener.standing?.unsaved).toEqual([]);
  expect(listener.standing?.head).toBe("two");
  answer();
  await settled();

  expect(bodies()[1]).toMatchObject({ to: "two", came_from: bodies()[0]?.key });
});

test.each(["refused", "branched"] as const)(
  "undo of an edit that is %s moves nothing, and says nothing more",
  async (ending) => {
    const answer = holdAnswers();
    if (ending === "refused") network.statuses = [409];
    network.outcome = "branched";
    network.standsAt = "elsewhere";
    const outbox = begin();
    outbox.push(renamed("first"));
    await sent(1);

    outbox.undo();
    answer();
    await settled();

    expect(network.sent).toHaveLength(1);
    expect(listener.overtaken).toBe(0);
  },
);

test("undo never takes back what another window did meanwhile", async () => {
  const answer = holdAnswers();
  network.standsAt = "of another window";
  const outbox = begin();
  outbox.push(renamed("first"));
  await sent(1);

  outbox.undo();
  answer();
  await settled();

  expect(network.sent).toHaveLength(1);
  expect(listener.overtaken).toBe(1);
});

test("a move that the service does not make, since another came before, is told", async () => {
  const outbox = begin();
  network.standsAt = "of another window";

  outbox.undo();
  await settled();

  expect(bodies()[0]).toMatchObject({ to: "one", came_from: "two" });
  expect(listener.overtaken).toBe(1);
});

test("without a connection undo and redo show the states that were seen, over and over", async () => {
  network.before = "two";
  const outbox = begin();
  outbox.push(renamed("first"));
  await settled();
  const third = bodies()[0]?.key;
  network.down = true;

  outbox.undo();
  await held();
  expect([listener.standing?.head, listener.standing?.base.head]).toEqual(["two", "two"]);
  outbox.redo();
  expect(listener.standing?.head).toBe(third);
  outbox.undo();
  outbox.undo();
  expect(listener.standing?.head).toBeNull();
  expect(listener.standing?.base.head).toBe("two");
  expect(listener.waiting).toHaveLength(4);

  network.down = false;
  outbox.retry();
  await settled();
  const moves = bodies().slice(1);
  expect(moves.map(({ to }) => to).slice(0, 1)).toEqual(["two"]);
});

test("what was taken back before it was sent comes again after what was undone later", async () => {
  const answer = holdAnswers();
  network.before = "two";
  const outbox = begin({ redo_to: "of before" });
  outbox.push(renamed("first"));
  await sent(1);
  outbox.push(renamed("second"));

  outbox.undo();
  outbox.undo();
  outbox.redo();
  expect(listener.standing?.unsaved).toEqual([renamed("first")]);
  outbox.redo();
  expect(listener.standing?.unsaved).toEqual([renamed("first"), renamed("second")]);
  outbox.undo();
  outbox.push(renamed("third"));
  expect(listener.standing?.canRedo).toBe(false);
  answer();
  await settled();
});

test("another name shows at once, and is nobody's change", () => {
  const outbox = begin();

  outbox.rename("Season");

  expect(listener.state?.name).toBe("Season");
  expect(listener.waiting).toEqual([]);
});

test("the same state told again keeps the very composite that is shown", () => {
  const outbox = begin();
  const first = sampleState({ changes: 6, head: "three" });
  outbox.catchUp(first);
  const shown = listener.standing?.base.composite;

  outbox.catchUp({ ...structuredClone(first), changes: 7, name: "Renamed" });

  expect(listener.standing?.base.composite).toBe(shown);
  expect(listener.standing?.latest.name).toBe("Renamed");
});

test("an answer that is as it was expected leaves every layer the very same", async () => {
  const layers = [sampleLayer("a"), sampleLayer("b")];
  const composite = sampleComposite(...layers) as ProjectState["composite"];
  const outbox = begin({ composite });
  outbox.push(renamed("Moths"));
  const { standing } = listener;
  const expected = standing && compositeOf(standing.base, standing.unsaved);
  const shown = expected?.layers ?? [];
  network.composite = structuredClone(expected) as typeof composite;

  await settled();

  const now = listener.standing?.base.composite.layers;
  expect(now?.map((layer, at) => layer === shown[at])).toEqual([true, true]);
  expect(now?.[0]?.name).toBe("Moths");
  expect(now?.[1]).toBe(layers[1]);
});
