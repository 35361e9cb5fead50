import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactElement, useState } from "react";
import { afterEach, expect, test } from "vitest";
import { useKeptFocus } from "@/features/desk/useKeptFocus";
import { NameField } from "@/ui/NameField";

afterEach(cleanup);

function Work(): ReactElement {
  useKeptFocus();
  const [isThere, setThere] = useState(true);
  const [isNaming, setNaming] = useState(false);
  return (
    <>
      <button type="button" data-stage="" data-testid="stage" />
      {isThere ? (
        <button type="button" onClick={() => setThere(false)}>
          Take away
        </button>
      ) : null}
      <button type="button" onClick={() => setNaming(true)}>
        Rename
      </button>
      {isNaming ? (
        <NameField
          label="Name"
          name="Moths"
          longest={9}
          onName={() => undefined}
          onLeave={() => setNaming(false)}
        />
      ) : null}
    </>
  );
}

test("where what had the focus is taken away, the stage has it", async () => {
  render(<Work />);

  await userEvent.click(screen.getByRole("button", { name: "Take away" }));

  await waitFor(() => expect(document.activeElement).toBe(screen.getByTestId("stage")));
});

test.each(["{Enter}", "{Escape}"])(
  "after naming by %s who asked for it has the focus",
  async (key) => {
    render(<Work />);
    const asked = screen.getByRole("button", { name: "Rename" });
    await userEvent.click(asked);

    await userEvent.keyboard(key);

    await waitFor(() => expect(document.activeElement).toBe(asked));
  },
);
