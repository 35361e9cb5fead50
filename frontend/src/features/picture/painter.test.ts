// @vitest-environment jsdom

import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { StagePainter } from "@/features/picture/painter";
import type { Shown } from "@/features/picture/shown";
import { useShowing } from "@/state/showing";
import { useToning } from "@/state/toning";
import { sampleComposite } from "@/testing/samples";

const HEADER_BYTES = 8;

/** A frame's body; its one byte of picture tells which it is. */
function bodyOf(frame: number): ArrayBuffer {
  const bytes = new Uint8Array(HEADER_BYTES + 1);
  bytes.set([0, 0, 0, 1, 0, 0, 0, 0, frame]);
  return bytes.buffer;
}

interface Asked {
  readonly revision: string;
  readonly view: { scale: number; fineness: string; width: number };
  readonly tones_of: object | null;
}

/** The browser as the painter sees it; pictures are decoded when the test says so. */
class Browser {
  readonly asked: Asked[] = [];
  readonly painted: number[] = [];
  /** Of which states there is more to see once they are asked for again. */
  readonly rough = new Set<string>();
  readonly #decoding = new Map<number, () => void>();

  readonly fetch = async (_: string, init: RequestInit): Promise<Response> => {
    const asked: Asked = JSON.parse(String(init.body));
    this.asked.push(asked);
    await new Promise((resolve) => setTimeout(resolve));
    const headers: HeadersInit = this.rough.has(asked.revision) ? { "Rough-As-Yet": "1" } : {};
    return new Response(bodyOf(this.asked.length), { headers });
  };

  readonly decode = async (blob: Blob): Promise<object> => {
    const [frame = 0] = new Uint8Array(await blob.arrayBuffer());
    await new Promise<void>((resolve) => this.#decoding.set(frame, resolve));
    return { width: 1, height: 1, frame, close: () => undefined };
  };

  readonly context = {
    drawImage: (image: { frame: number }) => this.painted.push(image.frame),
    ...Object.fromEntries(
      ["clearRect", "save", "restore", "beginPath", "rect", "clip", "fillRect"].map((name) => [
        name,
        () => undefined,
      ]),
    ),
  };

  async decoded(frame: number): Promise<void> {
    await vi.waitFor(() => expect([...this.#decoding.keys()]).toContain(frame));
    this.#decoding.get(frame)?.();
    await new Promise((resolve) => setTimeout(resolve));
  }
}

const shown = (changes: Partial<Shown> = {}): Shown => ({
  projectId: "project",
  revision: "first",
  unsaved: [],
  canvas: sampleComposite().canvas,
  view: { x: 0, y: 0, scale: 1 },
  stage: { width: 100, height: 80 },
  pixelRatio: 1,
  backing: { kind: "color", color: "#ffffff" },
  moving: false,
  hatched: null,
  maskOf: null,
  maskSeen: "whole",
  printed: false,
  tone: null,
  trace: null,
  ...changes,
});

const SMALLER: Partial<Shown> = { view: { x: 0, y: 0, scale: 0.5 } };

let browser: Browser;
let surface: HTMLCanvasElement;
let painter: StagePainter;
let troubles: unknown[];

beforeEach(() => {
  troubles = [];
  browser = new Browser();
  vi.stubGlobal("fetch", browser.fetch);
  vi.stubGlobal("createImageBitmap", browser.decode);
  surface = document.createElement("canvas");
  Object.assign(surface, { getContext: () => browser.context });
  painter = new StagePainter(surface, (error) => troubles.push(error));
});

afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

test("a frame that is decoded late does not cover a newer one", async () => {
  painter.show(shown({ moving: true }), true);
  await vi.waitFor(() => expect(browser.asked).toHaveLength(1));
  painter.show(shown(), true);
  await vi.waitFor(() => expect(browser.asked).toHaveLength(2));

  await browser.decoded(2);
  await browser.decoded(1);

  expect(browser.painted).toEqual([2]);
});

test("a frame that did not come is asked for once more, one that came is not", async () => {
  vi.stubGlobal("fetch", () => Promise.reject(new TypeError("no connection")));
  painter.show(shown(), true);
  await vi.waitFor(() => expect(troubles).toHaveLength(1));
  const other = shown({ backing: { kind: "color", color: "#000000" } });
  painter.show(other, false);

  vi.stubGlobal("fetch", browser.fetch);
  painter.retry();
  await browser.decoded(1);
  painter.retry();
  await new Promise((resolve) => setTimeout(resolve));

  expect(browser.painted).toEqual([1]);
  expect(browser.asked).toHaveLength(1);
  expect(surface.getAttribute("aria-busy")).toBe("false");
});

test("what moves is asked for at half size, what rests in full and exactly", async () => {
  painter.show(shown({ moving: true }), true);
  await browser.decoded(1);
  painter.show(shown(), true);
  await browser.decoded(2);

  expect(browser.asked.map(({ view }) => view)).toMatchObject([
    { scale: 0.5, fineness: "quick", width: 50 },
    { scale: 1, fineness: "exact", width: 100 },
  ]);
});

test("what is made smaller comes fine first, and exactly once it rests", async () => {
  const tone = { layer_id: "puppet", place: 0 };
  painter.show(shown({ ...SMALLER, tone }), true);
  await browser.decoded(1);
  expect(surface.getAttribute("aria-busy")).toBe("true");
  // The same pixels on another backing: what is awaited is the same.
  painter.show(shown({ ...SMALLER, tone, backing: { kind: "color", color: "#000000" } }), false);
  await browser.decoded(2);

  expect(browser.asked.map(({ view }) => view.fineness)).toEqual(["fine", "exact"]);
  expect(browser.asked.map(({ tones_of }) => tones_of)).toEqual([tone, null]);
  expect(browser.painted.at(-1)).toBe(2);
  expect(surface.getAttribute("aria-busy")).toBe("false");
});

test("what moves on before it has rested is not asked for exactly", async () => {
  painter.show(shown(SMALLER), true);
  await browser.decoded(1);
  painter.show(shown({ ...SMALLER, revision: "second" }), true);
  await browser.decoded(2);
  await browser.decoded(3);

  expect(browser.asked.map(({ view }) => view.fineness)).toEqual(["fine", "fine", "exact"]);
});

test("what is rough as yet is asked for again, but not before a newer state", async () => {
  browser.rough.add("first");
  painter.show(shown(), true);
  painter.show(shown({ revision: "second" }), true);
  await browser.decoded(1);
  await browser.decoded(2);
  expect(browser.asked.map(({ revision }) => revision)).toEqual(["first", "second"]);

  painter.show(shown(), true);
  await vi.waitFor(() => expect(browser.asked.length).toBeGreaterThan(4));
  browser.rough.clear();
  await browser.decoded(browser.asked.length);
  expect(surface.getAttribute("aria-busy")).toBe("false");
});

test("frames of what moves become smaller where they come late, and whole at rest", async () => {
  let now = 0;
  vi.spyOn(performance, "now").mockImplementation(() => {
    now += 45;
    return now;
  });
  for (let frame = 1; frame <= 6; frame += 1) {
    painter.show(shown({ revision: String(frame), moving: true }), true);
    await browser.decoded(frame);
  }
  painter.show(shown(), true);
  await browser.decoded(7);

  const scales = browser.asked.map(({ view }) => view.scale);
  expect(scales.slice(0, 5)).toEqual([0.5, 0.5, 0.5, 0.5, 0.5]);
  expect(scales.slice(5)).toEqual([1 / 3, 1]);
});

test("a mask alone comes exactly at once", async () => {
  painter.show(shown({ ...SMALLER, maskOf: "puppet" }), true);
  await browser.decoded(1);

  expect(browser.asked.map(({ view }) => view.fineness)).toEqual(["exact"]);
  expect(surface.getAttribute("aria-busy")).toBe("false");
});

test("the stage is busy until the last frame is painted", async () => {
  painter.show(shown({ moving: true }), true);
  await browser.decoded(1);
  expect(surface.getAttribute("aria-busy")).toBe("true");
  painter.show(shown(), true);
  await browser.decoded(2);

  expect(surface.getAttribute("aria-busy")).toBe("false");
});

test("a frame that is none leaves the stage neither busy nor without the next", async () => {
  vi.stubGlobal("createImageBitmap", () => Promise.reject(new Error("no picture")));
  painter.show(shown(), true);
  await vi.waitFor(() => expect(troubles).toHaveLength(1));
  expect(surface.getAttribute("aria-busy")).toBe("false");

  vi.stubGlobal("createImageBitmap", browser.decode);
  painter.show(shown(), true);
  await browser.decoded(2);

  expect(browser.painted).toEqual([2]);
});

const refusing = (status: number) => async () =>
  new Response(JSON.stringify({ detail: "It does not fit." }), { status });

test("a refusal of the newest frame is told, one of a state that was replaced is not", async () => {
  let refuse: () => void = () => undefined;
  vi.stubGlobal("fetch", async () => {
    await new Promise<void>((resolve) => {
      refuse = resolve;
    });
    return refusing(422)();
  });
  painter.show(shown(), true);
  await vi.waitFor(() => expect(refuse).not.toBe(undefined));
  const first = refuse;
  vi.stubGlobal("fetch", refusing(409));

  painter.show(shown({ revision: "second" }), true);
  first();
  await vi.waitFor(() => expect(troubles).toHaveLength(1));

  expect(troubles).toMatchObject([{ status: 409, message: "It does not fit." }]);
});

test("trouble is over with the next frame that is painted", async () => {
  useShowing.setState({ trouble: "It does not fit." });

  painter.show(shown(), true);
  await browser.decoded(1);

  expect(useShowing.getState().trouble).toBeNull();
});

test("levels that an older state has are not told of a newer one", async () => {
  const counted = (levels: string) => async () =>
    new Response(bodyOf(1), { headers: { "Tone-Counts": levels } });
  useToning.setState({ counts: null });
  let answer: () => void = () => undefined;
  vi.stubGlobal("fetch", async () => {
    await new Promise<void>((resolve) => {
      answer = resolve;
    });
    return counted(btoa("x".repeat(8 * 256)))();
  });
  const tone = { layer_id: "a", place: 0 };
  painter.show(shown({ tone }), true);
  await vi.waitFor(() => expect(painter).toBeTruthy());
  const first = answer;
  vi.stubGlobal("fetch", async () => new Response(bodyOf(2)));

  painter.show(shown({ tone, revision: "second" }), true);
  first();
  await new Promise((resolve) => setTimeout(resolve, 20));

  expect(useToning.getState().counts).toBeNull();
});
