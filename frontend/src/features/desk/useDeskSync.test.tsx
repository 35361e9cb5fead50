import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook } from "@testing-library/react";
import type { ReactElement, ReactNode } from "react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { ProjectState } from "@/api/types";
import { type DeskSync, useDeskSync } from "@/features/desk/useDeskSync";
import { useNotices } from "@/state/notices";
import { useProject } from "@/state/project";
import { sampleState } from "@/testing/samples";

/** The service as the page sees it: what a GET returns, and answers that come when told. */
class Service {
  state: ProjectState = sampleState({ changes: 1 });
  gets = 0;
  readonly #held: (() => void)[] = [];
  holding = false;

  readonly fetch = async (path: string, init?: RequestInit): Promise<Response> => {
    const edits = path.endsWith("/edits");
    const now = this.state;
    if (!edits) this.gets += 1;
    if (this.holding) await new Promise<void>((resolve) => this.#held.push(resolve));
    const edited = sampleState({ changes: 2, head: "mine" });
    const body = edits ? { state: edited, outcome: "applied" } : now;
    return new Response(JSON.stringify(body), { status: init?.method ? 201 : 200 });
  };

  async answer(): Promise<void> {
    this.holding = false;
    for (const resolve of this.#held.splice(0)) resolve();
    await act(async () => {
      await new Promise((resolve) => setTimeout(resolve, 5));
    });
  }
}

let service: Service;

beforeEach(() => {
  localStorage.clear();
  service = new Service();
  vi.stubGlobal("fetch", service.fetch);
});

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const known = () => useProject.getState().known;

async function open(): Promise<{ readonly current: DeskSync }> {
  const client = new QueryClient();
  const wrapper = ({ children }: { readonly children: ReactNode }): ReactElement => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const { result } = renderHook(() => useDeskSync("project"), { wrapper });
  await vi.waitFor(() => expect(result.current.phase).toBe("ready"));
  await service.answer();
  return result;
}

function edit(desk: DeskSync): void {
  if (desk.phase !== "ready") throw new Error("the desk must be open");
  desk.actions.edit({ kind: "show_layer", layer_id: "a", visible: false });
}

test("what another window did while this one sent is fetched when all is sent", async () => {
  const desk = await open();
  service.holding = true;
  act(() => edit(desk.current));
  service.state = sampleState({ changes: 9, head: "theirs" });
  act(() => useNotices.getState().hearMoved("project", 9));
  const before = service.gets;

  expect(known()?.changes).toBe(1);
  await service.answer();

  expect(service.gets).toBe(before + 1);
  expect(known()?.head).toBe("theirs");
});

test("a state that comes late does not take the place of a newer one", async () => {
  const desk = await open();
  service.holding = true;
  act(() => useNotices.getState().hearCatchUp());
  await vi.waitFor(() => expect(service.gets).toBeGreaterThan(1));
  service.holding = false;
  await act(async () => {
    edit(desk.current);
    await new Promise((resolve) => setTimeout(resolve, 20));
  });
  expect(known()?.head).toBe("mine");

  await service.answer();

  expect(known()?.head).toBe("mine");
});

test("notices of what is known already, or of another project, ask for nothing", async () => {
  await open();
  const before = service.gets;

  act(() => useNotices.getState().hearMoved("project", 1));
  act(() => useNotices.getState().hearMoved("another", 9));
  await service.answer();

  expect(service.gets).toBe(before);
});

test("a desk that was left changes nothing any more", async () => {
  const desk = await open();
  service.holding = true;
  act(() => edit(desk.current));
  cleanup();
  act(() => useProject.setState({ known: sampleState({ id: "next", head: "next" }) }));

  await service.answer();

  expect(known()?.head).toBe("next");
});
