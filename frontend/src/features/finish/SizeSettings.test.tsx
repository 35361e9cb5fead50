import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { SizeSettings } from "@/features/finish/SizeSettings";
import type { Finishing } from "@/features/finish/useFinishing";
import type { FileSize } from "@/model/finishing";

afterEach(cleanup);

function show(size: FileSize) {
  const change = vi.fn();
  const finishing = {
    settings: { size },
    change,
    facts: { width: 1890, height: 1417, ppi: 240, trim_mm: [200, 150] },
    project: { composite: { canvas: { width: 1890, height: 1417 } } },
  } as unknown as Finishing;
  render(<SizeSettings finishing={finishing} />);
  return change;
}

const boxes = () => screen.getAllByRole("textbox").map((box) => (box as HTMLInputElement).value);

test("a box shows the very number that is in force", () => {
  show({ by: "share", share: 1 });

  expect(boxes()).toEqual(["1"]);
});

test("paper is told in its unit, and its pixels an inch", () => {
  show({ by: "paper", width_mm: null, ppi: null });

  expect(boxes()).toEqual(["20", "240"]);
});

test("what is typed is asked for", async () => {
  const change = show({ by: "share", share: 1 });

  const [box] = screen.getAllByRole("textbox");
  await userEvent.clear(box as HTMLElement);
  await userEvent.type(box as HTMLElement, "2.55{Enter}");

  expect(change).toHaveBeenLastCalledWith({ size: { by: "share", share: 2.55 } });
});

test("another way to say the size begins with how large it is", async () => {
  const change = show({ by: "share", share: 1 });

  await userEvent.click(screen.getByRole("radio", { name: "at most" }));

  expect(change).toHaveBeenLastCalledWith({ size: { by: "longest", longest: 1890 } });
});
