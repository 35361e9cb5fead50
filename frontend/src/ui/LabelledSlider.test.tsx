import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { LabelledSlider } from "@/ui/LabelledSlider";

afterEach(cleanup);

function show(value = 60) {
  const onChange = vi.fn();
  const onChangeEnd = vi.fn();
  render(
    <LabelledSlider
      label="Strength"
      value={value}
      min={0}
      max={100}
      unit="%"
      fallback={100}
      onChange={onChange}
      onChangeEnd={onChangeEnd}
    />,
  );
  return { onChange, onChangeEnd };
}

test("an exact number can be typed", async () => {
  const { onChangeEnd } = show();
  const number = screen.getByRole("textbox", { name: "Strength, exact" });

  await userEvent.clear(number);
  await userEvent.type(number, "37{Enter}");

  expect(onChangeEnd).toHaveBeenLastCalledWith(37);
});

test("a number beyond the end is taken as the end", async () => {
  const { onChangeEnd } = show();
  const number = screen.getByRole("textbox", { name: "Strength, exact" });

  await userEvent.clear(number);
  await userEvent.type(number, "250{Enter}");

  expect(onChangeEnd).toHaveBeenLastCalledWith(100);
});

test("arrow keys move the slider by one", async () => {
  const { onChange, onChangeEnd } = show();

  screen.getByRole("slider", { name: "Strength" }).focus();
  await userEvent.keyboard("{ArrowLeft}");

  expect(onChange).toHaveBeenCalledWith(59);
  expect(onChangeEnd).toHaveBeenCalledWith(59);
});
