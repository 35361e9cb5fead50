import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { Sentence } from "@/work/Sentence";

afterEach(cleanup);

const PARTS = [
  { text: "Moths", touch: "name" },
  { text: ", ", touch: "words" },
  { text: "at the right", touch: "place" },
  { text: ", ", touch: "words" },
  { text: "multiplied", touch: "blend" },
  { text: ".", touch: "words" },
] as const;

function show(isOpen = false) {
  const onTouch = vi.fn();
  const onClose = vi.fn();
  render(<Sentence parts={PARTS} isOpen={isOpen} onTouch={onTouch} onClose={onClose} />);
  return { onTouch, onClose };
}

test("it reads as a sentence", () => {
  show();

  expect(screen.getByText("Moths").closest("p")?.textContent).toBe(
    "Moths, at the right, multiplied.",
  );
});

test("every live word opens what it speaks of", async () => {
  const { onTouch } = show();

  await userEvent.click(screen.getByRole("button", { name: "at the right: where it lies" }));
  await userEvent.click(screen.getByText("multiplied"));

  expect(onTouch.mock.calls).toEqual([["place"], ["blend"]]);
});

test("the name opens the layer, and closes it again", async () => {
  const { onTouch } = show();
  await userEvent.click(screen.getByRole("button", { name: "Moths" }));
  expect(onTouch).toHaveBeenCalledWith("name");
  cleanup();

  const { onClose } = show(true);
  const name = screen.getByRole("button", { name: "Moths", expanded: true });
  name.focus();
  await userEvent.keyboard("{Enter}");

  expect(onClose).toHaveBeenCalledOnce();
});
