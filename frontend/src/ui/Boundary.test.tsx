import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { lazy, type ReactElement, Suspense } from "react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Boundary } from "@/ui/Boundary";

let works: boolean;

beforeEach(() => {
  works = false;
  vi.spyOn(console, "error").mockReturnValue();
});

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

function Part(): ReactElement {
  if (!works) throw new TypeError("layers is undefined");
  return <p>The part works.</p>;
}

function show(of: string) {
  return (
    <>
      <p>The rest of the page.</p>
      <Boundary what="The stage" of={[of]}>
        <Part />
      </Boundary>
    </>
  );
}

test("one part that fails leaves all others, says so, and opens again", async () => {
  render(show("a"));

  const told = screen.getByRole("alert").textContent;
  expect(told).toContain("The stage cannot be shown");
  expect(told).toContain("Nothing you made is lost.");
  expect(told).not.toContain("undefined");
  expect(screen.getByText("The rest of the page.")).toBeTruthy();

  works = true;
  await userEvent.click(screen.getByRole("button", { name: "Open again" }));
  expect(screen.getByText("The part works.")).toBeTruthy();
});

test("what is shown is tried again when something else is shown", () => {
  const { rerender } = render(show("a"));
  works = true;
  rerender(show("a"));
  expect(screen.queryByText("The part works.")).toBeNull();

  rerender(show("b"));

  expect(screen.getByText("The part works.")).toBeTruthy();
});

test("a part of the page that does not come says that the page is to be opened anew", async () => {
  const Missing = lazy(async () => {
    throw new TypeError("Failed to fetch dynamically imported module: /assets/Desk-1.js");
  });
  render(
    <Boundary what="This page">
      <Suspense>
        <Missing />
      </Suspense>
    </Boundary>,
  );

  expect((await screen.findByRole("alert")).textContent).toContain("could not be fetched");
});
