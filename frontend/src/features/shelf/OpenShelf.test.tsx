import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { act } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { OpenShelf } from "@/features/shelf/OpenShelf";
import { useDesk } from "@/state/desk/desk";
import { deskWith } from "@/testing/desk";
import { DeskContext } from "@/work/DeskContext";

let answer: () => Response;

const intoView = vi.fn();

beforeEach(() => {
  intoView.mockClear();
  // The page of these tests is never laid out, and has nothing to scroll.
  Element.prototype.scrollIntoView = intoView;
  answer = () => Response.json({ pictures: [] });
  vi.stubGlobal("fetch", async () => answer());
});

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const MOTHS = {
  id: "moths",
  name: "Moths",
  format: "JPEG",
  width: 30,
  height: 20,
  ready: true,
  note: null,
  has_map: false,
  on_shelf: true,
  library: null,
  used_in: [],
  created_at: "2026-03-01T10:00:00Z",
};

function show(trouble: string | null = null) {
  const pictures = trouble ? [] : [MOTHS];
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <MemoryRouter>
      <QueryClientProvider client={client}>
        <DeskContext.Provider value={deskWith()}>
          <OpenShelf pictures={pictures} isLoading={false} trouble={trouble} />
        </DeskContext.Provider>
      </QueryClientProvider>
    </MemoryRouter>,
  );
}

async function choose(name: string) {
  await userEvent.click(screen.getByRole("button", { name: /What the shelf shows/ }));
  await userEvent.click(screen.getByRole("option", { name }));
}

test("a shelf that could not be fetched is not called empty", () => {
  show("The database is away.");

  expect(screen.getByRole("alert").textContent).toContain("The database is away.");
  expect(screen.queryByText(/The shelf is empty/)).toBeNull();
});

test("a library that could not be fetched says why, and is asked for again", async () => {
  answer = () => Response.json({ detail: "The disk is full." }, { status: 503 });
  show();
  await choose("the library");
  expect((await screen.findByRole("alert")).textContent).toContain("The disk is full.");

  answer = () => Response.json({ pictures: [] });
  await userEvent.click(screen.getByRole("button", { name: "Try again" }));

  expect(await screen.findByText(/did not come with this copy/)).toBeTruthy();
});

test("what is pointed out comes into sight, whatever was looked for before", async () => {
  show();
  await userEvent.type(screen.getByRole("searchbox"), "nothing like it");
  await choose("the library");
  expect(screen.queryByText("Moths")).toBeNull();

  act(() => useDesk.getState().actions.mark(["moths"]));

  await waitFor(() => expect(screen.getByText("Moths")).toBeTruthy());
  expect(screen.getByRole("region", { name: "here already" })).toBeTruthy();
  expect(intoView).toHaveBeenCalled();
});
