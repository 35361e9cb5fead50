import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook } from "@testing-library/react";
import type { ReactElement, ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useArrivals } from "@/state/arrivals";
import { type KnownJob, useJobs } from "@/state/jobs";
import { openProject, useProject } from "@/state/project";
import { sampleState } from "@/testing/samples";
import { jobEnd } from "@/work/jobEnd";
import { useBringIn } from "@/work/useBringIn";
import { useSaveFile } from "@/work/useSaveFile";

/** The service as the page sees it: answers come when the test says so. */
class Service {
  readonly asked: string[] = [];
  readonly #held: (() => void)[] = [];
  holds = false;
  status = 200;

  readonly fetch = async (path: string, init: RequestInit = {}): Promise<Response> => {
    this.asked.push(`${init.method ?? "GET"} ${path.replace(/[0-9a-f-]{36}/, "ID")}`);
    if (this.holds && init.method === "POST") {
      await new Promise<void>((resolve) => this.#held.push(resolve));
    }
    return Response.json({ id: "job", state: "waiting", progress: 0 }, { status: this.status });
  };

  async answer(): Promise<void> {
    this.holds = false;
    for (const resolve of this.#held.splice(0)) resolve();
    await settle();
  }
}

/** A file on its way to the service, as the browser sends it. */
class Upload {
  static last: Upload | null = null;
  readonly upload: { onprogress?: unknown } = {};
  status = 201;
  responseText = JSON.stringify({ id: "moths", name: "Moths", job_id: "job" });
  onload: () => void = () => undefined;
  onabort: () => void = () => undefined;
  open(): void {
    Upload.last = this;
  }
  send(): void {
    // Answered when the test says so.
  }
  abort(): void {
    this.onabort();
  }
}

const settle = () => act(async () => new Promise((resolve) => setTimeout(resolve, 5)));
const job = (state: KnownJob["state"]): KnownJob => ({
  id: "job",
  kind: "read_picture",
  state,
  progress: 0,
});
const FILE = new File(["moths"], "moths.jpg");

let service: Service;

beforeEach(() => {
  service = new Service();
  Upload.last = null;
  useJobs.setState({ jobs: {} });
  useArrivals.setState({ arrivals: [] });
  vi.stubGlobal("fetch", service.fetch);
  vi.stubGlobal("XMLHttpRequest", Upload);
});

afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

function Around({ children }: { readonly children: ReactNode }): ReactElement {
  return (
    <MemoryRouter>
      <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
    </MemoryRouter>
  );
}

function bringIn(onPicture: () => void, onAll: () => void): void {
  const { result } = renderHook(() => useBringIn(), { wrapper: Around });
  act(() => result.current([FILE], onPicture, onAll));
}

const stop = () => act(() => useArrivals.getState().arrivals[0]?.stop());

test("a file that is read in is heard of once it is ready", async () => {
  const [onPicture, onAll] = [vi.fn(), vi.fn()];
  bringIn(onPicture, onAll);
  await settle();

  act(() => Upload.last?.onload());
  await settle();
  expect(onPicture).not.toHaveBeenCalled();
  act(() => useJobs.getState().know(job("done")));
  await settle();

  expect(onPicture).toHaveBeenCalledOnce();
  expect(onAll).toHaveBeenCalledOnce();
  expect(useArrivals.getState().arrivals).toEqual([]);
});

test("a file that is stopped while it is read in is cancelled, and never laid on", async () => {
  const [onPicture, onAll] = [vi.fn(), vi.fn()];
  bringIn(onPicture, onAll);
  await settle();
  act(() => Upload.last?.onload());
  await settle();

  stop();
  act(() => useJobs.getState().know(job("cancelled")));
  await settle();

  expect(service.asked).toEqual(["DELETE /api/jobs/job"]);
  expect(onPicture).not.toHaveBeenCalled();
  expect(onAll).toHaveBeenCalledOnce();
});

test("a file that is stopped before its turn is never sent", async () => {
  const { result } = renderHook(() => useBringIn(), { wrapper: Around });
  act(() => result.current([FILE, FILE, FILE, FILE]));
  await settle();
  const third = Upload.last;

  act(() => useArrivals.getState().arrivals[3]?.stop());
  act(() => third?.onload());
  act(() => useJobs.getState().know(job("done")));
  await settle();

  expect(Upload.last).toBe(third);
});

function finish() {
  openProject(sampleState());
  return renderHook(() => useSaveFile("project")).result;
}

const WISHES = { format: "png", width: 100, quality: 90, matte: "#ffffff", apart: [] } as never;

test("a picture that is stopped before its changes are saved is never begun", async () => {
  const result = finish();
  act(() => useProject.setState({ queued: 1 }));
  act(() => result.current.start(WISHES));

  act(() => result.current.phase === "working" && result.current.stop());
  act(() => useProject.setState({ queued: 0 }));
  await act(async () => new Promise((resolve) => setTimeout(resolve, 80)));

  expect(result.current.phase).toBe("idle");
  expect(service.asked.filter((one) => one.startsWith("POST"))).toEqual([]);
});

test("a picture that is stopped while it is asked for is cancelled once it is known", async () => {
  service.holds = true;
  const result = finish();
  act(() => result.current.start(WISHES));
  await settle();

  act(() => result.current.phase === "working" && result.current.stop());
  expect(result.current.phase).toBe("idle");
  await service.answer();

  // Once at once, when the service knew nothing of it, and once when it did.
  const cancelled = service.asked.filter((one) => one === "DELETE /api/jobs/ID");
  expect(cancelled).toHaveLength(2);
  expect(result.current.phase).toBe("idle");
});

test("work that the service knows nothing of is not asked for without end", async () => {
  vi.useFakeTimers();
  service.status = 404;
  const ended = jobEnd("gone", () => undefined).catch((error: Error) => error.message);

  await vi.advanceTimersByTimeAsync(20_000);

  expect(await ended).toContain("begin it again");
  expect(service.asked).toHaveLength(1);
});

test("while the service is away work is asked for again", async () => {
  vi.useFakeTimers();
  service.status = 503;
  const ended = jobEnd("job", () => undefined);
  await vi.advanceTimersByTimeAsync(5000);
  useJobs.getState().know(job("done"));

  expect((await ended).state).toBe("done");
  expect(service.asked.length).toBeGreaterThan(1);
});

test("without a connection work is asked for again", async () => {
  vi.useFakeTimers();
  vi.stubGlobal("fetch", () => Promise.reject(new TypeError("no connection")));
  const ended = jobEnd("job", () => undefined);
  await vi.advanceTimersByTimeAsync(20_000);

  vi.stubGlobal("fetch", service.fetch);
  await vi.advanceTimersByTimeAsync(2000);
  useJobs.getState().know(job("done"));

  expect((await ended).state).toBe("done");
});

test("of jobs no more are remembered than may go on", () => {
  for (let at = 0; at < 500; at += 1) useJobs.getState().know({ ...job("done"), id: `job ${at}` });

  const known = Object.keys(useJobs.getState().jobs);
  expect(known).toHaveLength(100);
  expect(known.at(-1)).toBe("job 499");
});
