import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { Choice } from "@/ui/Choice";

afterEach(cleanup);

const SIZES = [
  { id: "full", label: "Full size" },
  { id: "half", label: "Half" },
] as const;

test("one of a few is taken by a press", async () => {
  const onChange = vi.fn();
  render(<Choice label="Size" value="full" choices={SIZES} onChange={onChange} />);

  await userEvent.click(screen.getByRole("radio", { name: "Half" }));

  expect(onChange).toHaveBeenCalledExactlyOnceWith("half");
});

test("taking the chosen one again keeps it", async () => {
  const onChange = vi.fn();
  render(<Choice label="Size" value="full" choices={SIZES} onChange={onChange} />);

  await userEvent.click(screen.getByRole("radio", { name: "Full size" }));

  expect(onChange).toHaveBeenLastCalledWith("full");
  expect(screen.getByRole("radio", { name: "Full size" }).ariaChecked).toBe("true");
});

test("nothing is marked where none of them is true", () => {
  render(<Choice label="Size" value={null} choices={SIZES} onChange={() => undefined} />);

  for (const { label } of SIZES) {
    expect(screen.getByRole("radio", { name: label }).ariaChecked).toBe("false");
  }
});
