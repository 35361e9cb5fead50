import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { StartSentence } from "@/features/wall/StartSentence";
import type { Canvas } from "@/model/composite";

let begun: Canvas[] = [];

beforeEach(() => {
  begun = [];
  vi.stubGlobal("fetch", async (_: string, init: RequestInit) => {
    begun.push((JSON.parse(String(init.body)) as { canvas: Canvas }).canvas);
    return new Response("{}", { status: 201 });
  });
  render(
    <MemoryRouter>
      <QueryClientProvider client={new QueryClient()}>
        <StartSentence />
      </QueryClientProvider>
    </MemoryRouter>,
  );
});

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

async function choose(word: RegExp, choice: string) {
  await userEvent.click(screen.getByRole("button", { name: word }));
  await userEvent.click(screen.getByRole("option", { name: choice }));
}

async function begin(): Promise<Canvas | undefined> {
  await userEvent.click(screen.getByRole("button", { name: "Begin" }));
  await waitFor(() => expect(begun).toHaveLength(1));
  return begun[0];
}

test("as it stands it begins an upright print on white", async () => {
  expect(await begin()).toEqual({ width: 2835, height: 3780, ppi: 240, background: "#ffffff" });
});

test("a print can lie on its side", async () => {
  await choose(/How it stands/, "on its side");

  expect(await begin()).toMatchObject({ width: 3780, height: 2835 });
});

test("a screen picture on nothing has its pixels and a clear sheet", async () => {
  await choose(/What it is for/, "for a screen");
  await choose(/How it stands/, "on its side");
  await choose(/What it lies on/, "nothing, see-through");

  expect(await begin()).toEqual({ width: 1920, height: 1080, ppi: 96, background: null });
});

test("a size of one's own is taken in inches at its ppi", async () => {
  await choose(/Size/, "a size of my own");
  await choose(/Unit/, "inches");
  const width = screen.getByRole("textbox", { name: "Width" });
  await userEvent.clear(width);
  await userEvent.type(width, "8{Enter}");
  const height = screen.getByRole("textbox", { name: "Height" });
  await userEvent.clear(height);
  await userEvent.type(height, "10{Enter}");

  expect(await begin()).toMatchObject({ width: 2400, height: 3000, ppi: 300 });
});

test("as large as a photo asks for the photo instead", async () => {
  await choose(/What it is for/, "as large as a photo");

  expect(screen.queryByRole("button", { name: "Begin" })).toBeNull();
  expect(screen.getByRole("button", { name: "Choose the photo…" })).toBeTruthy();
});
