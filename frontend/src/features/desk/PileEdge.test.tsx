import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { PileEdge } from "@/features/desk/PileEdge";
import { useSettings } from "@/state/settings";

const width = () => useSettings.getState().pileWidth;

beforeEach(() => {
  localStorage.clear();
  useSettings.getState().setPileWidth(null);
  vi.stubGlobal("innerWidth", 1280);
  render(<PileEdge />);
});

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

async function press(keys: string): Promise<void> {
  screen.getByRole("separator", { name: "Width of the pile" }).focus();
  await userEvent.keyboard(keys);
}

test("arrow keys make the pile wider and narrower, within its bounds", async () => {
  useSettings.getState().setPileWidth(400);
  await press("{ArrowRight}{ArrowRight}{ArrowLeft}");
  expect(width()).toBe(410);

  await press("{End}{ArrowRight}");
  expect(width()).toBe(560);

  await press("{Home}{ArrowLeft}");
  expect(width()).toBe(280);
  expect(localStorage.getItem("glyphaneme.pile-width")).toBe("280");
});

test("in a narrow window the pile has half of it, and is dragged from there", async () => {
  useSettings.getState().setPileWidth(560);
  vi.stubGlobal("innerWidth", 800);
  fireEvent(window, new Event("resize"));
  expect(screen.getByRole("separator").getAttribute("aria-valuenow")).toBe("400");

  await press("{ArrowLeft}");

  expect(width()).toBe(390);
});

test("pressed twice, the edge gives the usual width back", () => {
  useSettings.getState().setPileWidth(500);

  fireEvent.doubleClick(screen.getByRole("separator"));

  expect(width()).toBeNull();
  expect(localStorage.getItem("glyphaneme.pile-width")).toBeNull();
});
