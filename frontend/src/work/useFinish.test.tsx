import { act, renderHook, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { ExportRequest } from "@/model/finishing";
import { type KnownJob, useJobs } from "@/state/jobs";
import { useFinish } from "@/work/useFinish";
import { useLook } from "@/work/useLook";

interface Asked {
  readonly path: string;
  readonly method: string;
  readonly key: string;
}

let asked: Asked[] = [];
let saved: string[] = [];

const REQUEST = { revision: "r", quality: 90 } as ExportRequest;
const WORSE = { revision: "r", quality: 50 } as ExportRequest;

beforeEach(() => {
  asked = [];
  saved = [];
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"], shouldAdvanceTime: true });
  vi.stubGlobal("fetch", async (path: string, init?: RequestInit) => {
    const method = init?.method ?? "GET";
    const { key = "" } = JSON.parse(String(init?.body ?? "{}"));
    if (method !== "GET") asked.push({ path, method, key });
    return new Response("{}", { status: 202 });
  });
  vi.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(function (
    this: HTMLAnchorElement,
  ) {
    saved.push(this.getAttribute("href") ?? "");
  });
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

const begun = () => asked.filter(({ method }) => method === "POST");
const stopped = () => asked.filter(({ method }) => method === "DELETE").map(({ path }) => path);

function tell(changes: Partial<KnownJob>, which = 0) {
  const id = begun()[which]?.key ?? "";
  act(() =>
    useJobs.getState().know({ id, kind: "export", state: "running", progress: 0, ...changes }),
  );
}

const show = (isEager: boolean) =>
  renderHook(({ request }) => useFinish("p", request, isEager), {
    initialProps: { request: REQUEST },
  });

const rest = () => act(() => vi.advanceTimersByTimeAsync(1000));

test("a file is made once nothing changes any more, and its size is known", async () => {
  const { result } = show(true);
  expect(begun()).toEqual([]);

  await rest();
  tell({ progress: 0.5 });
  expect(result.current.making).toEqual({ phase: "making", progress: 0.5 });
  tell({ state: "done", progress: 1, file_name: "a.png", found: { bytes: 1234 } });

  await waitFor(() => expect(result.current.making.phase).toBe("made"));
  expect(result.current.making).toMatchObject({ file: { bytes: 1234, name: "a.png" } });
  expect(saved).toEqual([]);
});

test("what was made already is saved at once, and is not made again", async () => {
  const { result } = show(true);
  await rest();
  tell({ state: "done", file_name: "a.png", found: { bytes: 1 } });

  await act(() => result.current.save());

  expect(begun()).toHaveLength(1);
  expect(saved).toEqual([`/api/exports/${begun()[0]?.key}/file`]);
  expect(result.current.saved?.name).toBe("a.png");
});

test("a change lets go of what was made to be measured alone", async () => {
  const { rerender } = show(true);
  await rest();

  rerender({ request: WORSE });
  await rest();

  expect(stopped()).toEqual([`/api/jobs/${begun()[0]?.key}`]);
  expect(begun()).toHaveLength(2);
});

test("what somebody saved is kept when something else is changed", async () => {
  const { result, rerender } = show(true);
  await rest();
  tell({ state: "done", file_name: "a.png" });
  await act(() => result.current.save());

  rerender({ request: WORSE });

  expect(stopped()).toEqual([]);
});

test("a quick hand begins no work that nobody waits for", async () => {
  const { rerender } = show(true);
  for (const quality of [80, 70, 60, 50]) {
    await act(() => vi.advanceTimersByTimeAsync(300));
    rerender({ request: { ...REQUEST, quality } });
  }
  await rest();

  expect(begun()).toHaveLength(1);
});

test("a large file is made only when it is asked for, and can be stopped", async () => {
  const { result } = show(false);
  await rest();
  expect(begun()).toEqual([]);

  act(() => void result.current.save());
  await waitFor(() => expect(begun()).toHaveLength(1));
  act(() => result.current.stop());
  tell({ state: "cancelled" });

  await waitFor(() => expect(result.current.making.phase).toBe("idle"));
  expect(stopped()).toHaveLength(1);
  expect(saved).toEqual([]);
});

test("a failure is told in the service's words", async () => {
  const { result } = show(true);
  await rest();

  tell({ state: "failed", error: "The disk is full. Nothing you made is lost." });

  await waitFor(() => expect(result.current.making.phase).toBe("failed"));
  expect(result.current.making).toMatchObject({ reason: expect.stringContaining("full") });
});

test("of many looks one is under way, and only the newest waits", async () => {
  const looks: { x: number; answer(): void }[] = [];
  vi.stubGlobal("fetch", (_: string, init: RequestInit) => {
    const { seen } = JSON.parse(String(init.body));
    return new Promise((resolve) => {
      looks.push({ x: seen.x, answer: () => resolve(new Response("", { status: 200 })) });
    });
  });
  vi.stubGlobal("URL", { createObjectURL: () => "blob:a", revokeObjectURL: () => undefined });
  const seen = (x: number) => ({ x, y: 0, width: 9, height: 9, scale: 1, marks: "none" }) as const;
  const { rerender, result } = renderHook(({ x }) => useLook("p", REQUEST, seen(x)), {
    initialProps: { x: 0 },
  });
  for (const x of [1, 2, 3]) rerender({ x });
  expect(looks.map(({ x }) => x)).toEqual([0]);

  await act(async () => looks[0]?.answer());
  await waitFor(() => expect(looks.map(({ x }) => x)).toEqual([0, 3]));
  await act(async () => looks[1]?.answer());

  await waitFor(() => expect(result.current.look?.seen.x).toBe(3));
  expect(result.current.isFetching).toBe(false);
});
