import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { NameField } from "@/ui/NameField";

afterEach(cleanup);

function show() {
  const onName = vi.fn();
  const onLeave = vi.fn();
  render(
    <NameField
      label="Name of Moths"
      longest={120}
      name="Moths"
      onName={onName}
      onLeave={onLeave}
    />,
  );
  return { onName, onLeave, box: screen.getByRole("textbox", { name: "Name of Moths" }) };
}

test("Enter keeps a new name", async () => {
  const { onName, onLeave, box } = show();

  await userEvent.clear(box);
  await userEvent.type(box, "  Grey moths {Enter}");

  expect(onName).toHaveBeenCalledExactlyOnceWith("Grey moths");
  expect(onLeave).toHaveBeenCalled();
});

test("Escape keeps the old name", async () => {
  const { onName, onLeave, box } = show();

  await userEvent.type(box, "Other{Escape}");

  expect(onName).not.toHaveBeenCalled();
  expect(onLeave).toHaveBeenCalledOnce();
});

test("an empty or unchanged name is no new name", async () => {
  const { onName, box } = show();

  await userEvent.clear(box);
  await userEvent.type(box, "   {Enter}");
  await userEvent.clear(box);
  await userEvent.type(box, "Moths{Enter}");

  expect(onName).not.toHaveBeenCalled();
});
