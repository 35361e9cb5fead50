import { cleanup, fireEvent, renderHook } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { useKeyboard } from "@/features/desk/useKeyboard";
import { useBrush } from "@/state/brush";
import { useDesk } from "@/state/desk/desk";
import { useJudging } from "@/state/judging";
import { useOwnKeys } from "@/state/ownKeys";
import { useSettings } from "@/state/settings";
import { deskWith } from "@/testing/desk";
import { sampleGroup, sampleLayer, samplePlacement } from "@/testing/samples";

afterEach(() => {
  useOwnKeys.getState().forget();
  cleanup();
  document.body.innerHTML = "";
});

function hear(open: string | null = "front") {
  const desk = deskWith(sampleLayer("back"), sampleLayer("front"));
  const showMap = vi.fn();
  renderHook(() => useKeyboard(desk, showMap));
  useDesk.getState().actions.open(open, "place");
  return { desk, showMap };
}

test("arrow keys move the open layer by one pixel, with Shift by ten", async () => {
  const { desk } = hear();

  await userEvent.keyboard("{ArrowRight}{Shift>}{ArrowUp}{/Shift}");

  expect(desk.edits).toMatchObject([{ placement: { x: 51, y: 40 } }, { placement: { y: 30 } }]);
});

test("letters act on the open layer alone", async () => {
  const { desk } = hear(null);

  await userEvent.keyboard("olk{Delete}");

  expect(desk.edits).toEqual([]);
});

test("hiding, locking and putting together each have a key", async () => {
  const { desk } = hear();

  await userEvent.keyboard("oku");

  expect(desk.edits.map(({ kind }) => kind)).toEqual(["show_layer", "lock_layer", "group_layers"]);
});

test("a key that is kept down acts once, but goes on moving a layer through the pile", () => {
  const { desk } = hear("back");

  for (const key of ["o", "o", "l", "Delete", "PageUp", "PageUp"]) {
    fireEvent.keyDown(document.body, { key, repeat: true });
  }

  expect(desk.edits.map(({ kind }) => kind)).toEqual(["move_layer", "move_layer"]);
});

test("undo and its opposite need Control", async () => {
  const { desk } = hear();

  await userEvent.keyboard("z{Control>}z{Shift>}z{/Shift}{/Control}");

  expect(desk.moves).toEqual(["undo", "redo"]);
});

test("B and P open facets, Escape closes the layer", async () => {
  hear();

  await userEvent.keyboard("b");
  expect(useDesk.getState().facet).toBe("blend");
  await userEvent.keyboard("p{Escape}");

  expect(useDesk.getState()).toMatchObject({ facet: "place", openLayer: null });
});

test("the layer is seen through only while the key is held", async () => {
  hear();
  // One session: it remembers which keys are down.
  const user = userEvent.setup();

  await user.keyboard("{g>}");
  expect(useDesk.getState().seeThrough).toBe(true);
  await user.keyboard("{/g}");

  expect(useDesk.getState().seeThrough).toBe(false);
});

test("keys typed into a field do nothing else", async () => {
  const { desk, showMap } = hear();
  const field = document.body.appendChild(document.createElement("input"));
  field.focus();

  await userEvent.keyboard("o?{ArrowLeft}{Delete}");

  expect(desk.edits).toEqual([]);
  expect(showMap).not.toHaveBeenCalled();
});

/** Put the focus on an element somewhere on the page. */
function focusOn(html: string): void {
  document.body.insertAdjacentHTML("beforeend", html);
  document.querySelector<HTMLElement>("[data-here]")?.focus();
}

test.each([
  ["the stage", "<button data-here data-stage></button>"],
  ["the pile", "<button data-here data-pile></button>"],
  ["a button beside the work", "<button data-here></button>"],
  ["a tick", '<input data-here type="checkbox">'],
  ["the try strip", '<div data-tries><i role="listbox"><b data-here tabindex="0"></b></i></div>'],
])("letters are heard on %s", async (_, html) => {
  const { desk } = hear();
  focusOn(html);

  await userEvent.keyboard("o");

  expect(desk.edits).toMatchObject([{ kind: "show_layer" }]);
});

test.each([
  ["a list", '<i role="listbox"><b data-here tabindex="0"></b></i>'],
  ["a menu", '<i role="menu"><b data-here tabindex="0"></b></i>'],
  ["a dialog", '<i role="dialog"><button data-here></button></i>'],
  ["a search", '<input data-here type="search">'],
])("letters are not heard on %s", async (_, html) => {
  const { desk } = hear();
  focusOn(html);

  await userEvent.keyboard("o");

  expect(desk.edits).toEqual([]);
});

test("what takes a layer away is heard at work alone, chords everywhere", async () => {
  const { desk } = hear();
  focusOn("<button data-here></button>");

  await userEvent.keyboard("{Delete}{Backspace}{PageUp}{Escape}{Control>}z{/Control}");

  expect(desk.edits).toEqual([]);
  expect(useDesk.getState().openLayer).toBe("front");
  expect(desk.moves).toEqual(["undo"]);
});

test("a word that offers others hears letters only after the desk", async () => {
  const { desk } = hear();
  focusOn('<div data-pile><button data-here aria-haspopup="listbox"></button></div>');
  const heard = vi.fn();
  document.querySelector("[data-here]")?.addEventListener("keydown", heard);

  await userEvent.keyboard("ox");
  expect(desk.edits).toHaveLength(1);
  expect(heard).toHaveBeenCalledOnce();

  await userEvent.keyboard("{g>4/}");
  expect(heard).toHaveBeenCalledOnce();
});

test("plain keys can be switched off, and chords stay", async () => {
  const { desk } = hear();
  useSettings.getState().setPlainKeys(false);

  await userEvent.keyboard("o{Delete}{Control>}z{/Control}");
  useSettings.getState().setPlainKeys(true);

  expect(desk.edits).toEqual([]);
  expect(desk.moves).toEqual(["undo"]);
});

test("Shift tells together from apart, whatever Caps Lock makes of the letter", () => {
  const desk = deskWith(
    sampleLayer("back"),
    sampleGroup("both", samplePlacement(), sampleLayer("in")),
  );
  renderHook(() => useKeyboard(desk, () => undefined));
  useDesk.getState().actions.open("both", "place");

  fireEvent.keyDown(document.body, { key: "U" });
  useDesk.getState().actions.open("both", "place");
  fireEvent.keyDown(document.body, { key: "u", shiftKey: true });

  expect(desk.edits.map(({ kind }) => kind)).toEqual(["group_layers", "dissolve_group"]);
});

test("a held key is let go of when the window loses the focus", () => {
  hear();
  fireEvent.keyDown(document.body, { key: "g" });
  expect(useDesk.getState().seeThrough).toBe(true);

  fireEvent.blur(window);

  expect(useDesk.getState().seeThrough).toBe(false);
});

test("the map opens on a question mark", async () => {
  const { showMap } = hear(null);

  await userEvent.keyboard("?");

  expect(showMap).toHaveBeenCalledOnce();
});

test("a key that was set does it, and the one that did it before no more", async () => {
  const { desk } = hear();
  useOwnKeys.getState().set("hide", ["x"]);
  useOwnKeys.getState().set("through", ["y"]);

  await userEvent.keyboard("ox");
  expect(desk.edits).toMatchObject([{ kind: "show_layer" }]);

  fireEvent.keyDown(document.body, { key: "y" });
  expect(useDesk.getState().seeThrough).toBe(true);
  fireEvent.keyUp(document.body, { key: "g" });
  expect(useDesk.getState().seeThrough).toBe(true);
  fireEvent.keyUp(document.body, { key: "y" });
  expect(useDesk.getState().seeThrough).toBe(false);
});

test.each([
  ["n", 1000, false],
  ["n", 100, true],
  ["y", 1000, false],
])("%s swaps the brush, for good where it is held for %d ms only", (key, heldMs, isSwapped) => {
  hear();
  useOwnKeys.getState().set("swap", [key]);
  const before = useBrush.getState().shows;
  const now = vi.spyOn(performance, "now").mockReturnValue(5000);

  fireEvent.keyDown(document.body, { key });
  expect(useBrush.getState().shows).toBe(!before);
  now.mockReturnValue(5000 + heldMs);
  fireEvent.keyUp(document.body, { key: "m" });
  expect(useBrush.getState().shows).toBe(!before);
  fireEvent.keyUp(document.body, { key });

  expect(useBrush.getState().shows).toBe(isSwapped ? !before : before);
  now.mockRestore();
});

test("a letter typed elsewhere ends nothing that is looked at otherwise", () => {
  hear();
  useJudging.getState().holdOut(true);

  fireEvent.keyUp(document.body, { key: "v" });
  fireEvent.keyUp(document.body, { key: "g" });
  expect(useJudging.getState().isHeldOut).toBe(true);

  fireEvent.keyDown(document.body, { key: "v" });
  fireEvent.keyUp(document.body, { key: "v" });
  expect(useJudging.getState().isHeldOut).toBe(false);
});

test.each(["Delete", "Backspace"])(
  "%s takes a layer away from its row, not from a slider",
  (key) => {
    const { desk } = hear();
    document.body.innerHTML = `
    <div data-pile><div data-row><button id="row"></button></div>
    <input id="slider" type="range"><div role="row" tabindex="0" id="line"></div></div>`;
    const press = (id: string) =>
      fireEvent.keyDown(document.getElementById(id) as HTMLElement, { key });

    press("slider");
    press("line");
    useDesk.getState().actions.choose(["back", "front"]);
    press("slider");
    expect(desk.edits).toEqual([]);
    useDesk.getState().actions.choose([]);
    press("row");

    expect(desk.edits).toMatchObject([{ kind: "remove_layer", layer_id: "front" }]);
  },
);
