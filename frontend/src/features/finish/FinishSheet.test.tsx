import { act, cleanup, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { FinishSheet } from "@/features/finish/FinishSheet";
import { useDesk } from "@/state/desk/desk";
import { type KnownJob, useJobs } from "@/state/jobs";
import { useProject } from "@/state/project";
import { deskWith, showOnDesk } from "@/testing/desk";
import { sampleLayer, sampleState } from "@/testing/samples";

interface Asked {
  readonly path: string;
  readonly method: string;
  readonly body: { key: string; request: Record<string, unknown> };
}

let asked: Asked[] = [];
let saved: string[] = [];

beforeEach(() => {
  asked = [];
  saved = [];
  vi.stubGlobal("fetch", async (path: string, init?: RequestInit) => {
    const method = init?.method ?? "GET";
    // Looking after a job of an earlier test is nothing that is asked for here.
    if (method !== "GET")
      asked.push({ path, method, body: JSON.parse(String(init?.body ?? "{}")) });
    return new Response("{}", { status: 202 });
  });
  vi.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(function (
    this: HTMLAnchorElement,
  ) {
    saved.push(this.getAttribute("href") ?? "");
  });
});

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

function show() {
  const desk = deskWith(sampleLayer("a"));
  showOnDesk(desk, <FinishSheet isOpen onClose={() => undefined} />);
}

const press = (name: string) => userEvent.click(screen.getByRole("button", { name }));
const choose = (name: string) => userEvent.click(screen.getByRole("radio", { name }));

/** Tell how the job that was asked for goes on. */
function tell(changes: Partial<KnownJob>) {
  const id = asked[0]?.body.key ?? "";
  useJobs.getState().know({ id, kind: "export", state: "running", progress: 0, ...changes });
}

test("an opaque picture is offered as a JPEG at full size and its own ppi", () => {
  show();

  expect(screen.getByRole("radio", { name: "JPEG, a small file" }).ariaChecked).toBe("true");
  expect(screen.getByText(/^100 × 80 pixels; on paper 1.1 × 0.8 cm at 240 ppi/)).toBeTruthy();
});

test("half size keeps the paper size, so that the ppi halves", async () => {
  show();

  await choose("Half");

  expect(screen.getByText(/^50 × 40 pixels; on paper 1.1 × 0.8 cm at 120 ppi/)).toBeTruthy();
});

test("what is chosen is asked for, once, of the saved state", async () => {
  show();

  await choose("WebP, small, for web pages");
  await choose("Quarter");
  await press("Save the picture");

  expect(asked).toHaveLength(1);
  expect(asked[0]).toMatchObject({
    path: "/api/projects/project/exports",
    body: { request: { revision: "first", format: "webp", width: 25, quality: 90 } },
  });
});

test("progress is shown, and the finished file is saved and named", async () => {
  show();
  await press("Save the picture");

  tell({ progress: 0.4 });
  expect(await screen.findByRole("progressbar", { name: "Making the picture" })).toBeTruthy();
  tell({ state: "done", progress: 1, file_name: "poster.jpg" });

  expect(await screen.findByRole("link", { name: "poster.jpg" })).toBeTruthy();
  expect(saved).toEqual([`/api/exports/${asked[0]?.body.key}/file`]);
});

test("the work can be stopped", async () => {
  show();
  await press("Save the picture");

  await press("Stop");
  tell({ state: "cancelled" });

  await waitFor(() =>
    expect(screen.getByRole("button", { name: "Save the picture" })).toBeTruthy(),
  );
  expect(asked.map(({ method }) => method)).toContain("DELETE");
  expect(saved).toEqual([]);
});

test("a failure is told in the service's words", async () => {
  show();
  await press("Save the picture");

  tell({ state: "failed", error: "The disk is full. Nothing you made is lost." });

  expect((await screen.findByRole("alert")).textContent).toContain("The disk is full.");
});

const WAITING = { queued: 1 };

test("changes that still wait are in the file: it is made once they are saved", async () => {
  show();
  act(() => useProject.setState(WAITING));

  await press("Save the picture");
  expect(asked).toEqual([]);
  act(() => useProject.setState({ queued: 0, saved: sampleState({ head: "saved" }) }));

  await waitFor(() => expect(asked[0]?.body.request).toMatchObject({ revision: "saved" }));
});

test("changes that cannot be saved for long are not left out in silence", async () => {
  vi.useFakeTimers({ toFake: ["Date"] });
  show();
  act(() => useProject.setState(WAITING));

  await press("Save the picture");
  vi.setSystemTime(Date.now() + 60_000);

  expect((await screen.findByRole("alert")).textContent).toContain("not saved yet");
  expect(asked).toEqual([]);
  vi.useRealTimers();
});

test("a layered file has no size to choose", async () => {
  show();

  await choose("OpenRaster, with its layers");

  expect(screen.queryByRole("radio", { name: "Half" })).toBeNull();
  expect(screen.getByText(/Every layer as its own picture/)).toBeTruthy();
});

test("the open layer can be saved alone, on a colour where the format has no see-through", async () => {
  const desk = deskWith(sampleLayer("back"), sampleLayer("front"));
  useDesk.getState().actions.open("front", "cut");
  showOnDesk(desk, <FinishSheet isOpen onClose={() => undefined} />);

  await choose("The open layer alone");
  expect(screen.getByText(/^front by itself, as large as the sheet/)).toBeTruthy();
  expect(screen.queryByText(/lies behind see-through places/)).toBeNull();
  await press("Save the picture");
  await choose("JPEG, a small file");
  expect(screen.getByText(/lies behind see-through places/)).toBeTruthy();

  expect(asked[0]?.body.request).toMatchObject({ format: "png", piece: "front", apart: [] });
});

test("with no layer open, nothing is offered that is not there", () => {
  useDesk.getState().actions.open(null);
  show();

  expect(screen.queryByRole("radio", { name: "The open layer alone" })).toBeNull();
  expect(screen.queryByRole("radio", { name: "Each layer by itself" })).toBeNull();
});
