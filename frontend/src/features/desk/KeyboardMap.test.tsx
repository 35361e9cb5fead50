import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { KeyboardMap } from "@/features/desk/KeyboardMap";
import { useDesk } from "@/state/desk/desk";
import { useOwnKeys } from "@/state/ownKeys";

beforeEach(() => {
  useDesk.getState().actions.reset();
  useOwnKeys.getState().forget();
});
afterEach(cleanup);

const onClose = vi.fn();
const show = () => render(<KeyboardMap isOpen onClose={onClose} />);
const titles = () => screen.getAllByRole("heading", { level: 3 }).map((one) => one.textContent);
const key = (name: RegExp) => screen.getByRole("button", { name });

test("what belongs to the open facet comes first", () => {
  useDesk.getState().actions.open("layer", "cut");
  show();

  expect(titles()[0]).toBe("Cutting and painting");
  expect(titles()).toHaveLength(6);
});

test("keys are found by what they do, and by the key", async () => {
  show();
  const find = screen.getByRole("searchbox", { name: "Find a key or what it does" });

  await userEvent.type(find, "open LAYER copy");
  expect(screen.getAllByRole("listitem").map((one) => one.textContent)).toEqual([
    "LLay a copy over the open layer",
  ]);
  await userEvent.clear(find);
  await userEvent.type(find, "g");
  const found = within(screen.getByRole("region", { name: "Looking" }));
  expect(found.getAllByRole("listitem")).toHaveLength(1);
  await userEvent.clear(find);
  await userEvent.type(find, "no such thing");
  expect(screen.queryAllByRole("listitem")).toEqual([]);
  expect(screen.getByText("No key does that.")).toBeDefined();
});

test("a key is set by pressing it, kept, and set back with all others", async () => {
  show();

  await userEvent.click(key(/^L: Lay a copy/));
  await userEvent.keyboard("k");

  expect(key(/^K: Lay a copy/)).toBeDefined();
  expect(key(/^no key: Lock/)).toBeDefined();
  expect(JSON.parse(localStorage.getItem("glyphaneme.keys") ?? "")).toEqual({
    copy: ["k"],
    lock: [],
  });

  await userEvent.click(screen.getByRole("button", { name: "Set all keys back" }));
  expect(key(/^L: Lay a copy/)).toBeDefined();
  expect(key(/^K: Lock/)).toBeDefined();
  expect(localStorage.getItem("glyphaneme.keys")).toBeNull();
});

test("Escape keeps the key as it is, and the map open; a key without meaning waits on", async () => {
  show();

  await userEvent.click(key(/^L: Lay a copy/));
  await userEvent.keyboard("{Enter}{ArrowDown}");
  expect(key(/^Press a key for: Lay a copy/)).toBeDefined();
  await userEvent.keyboard("{Escape}");

  expect(key(/^L: Lay a copy/)).toBeDefined();
  expect(onClose).not.toHaveBeenCalled();
  expect(useOwnKeys.getState().own).toEqual({});
});
