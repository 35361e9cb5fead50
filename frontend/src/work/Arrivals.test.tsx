import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { useArrivals } from "@/state/arrivals";
import { Arrivals } from "@/work/Arrivals";

afterEach(() => {
  cleanup();
  for (const { id } of useArrivals.getState().arrivals) useArrivals.getState().remove(id);
});

function arrive(name: string, changes: object = {}) {
  const stop = vi.fn();
  useArrivals
    .getState()
    .add({ id: name, name, stage: "sending", progress: 0.25, stop, ...changes });
  return stop;
}

test("each file shows how far it is, and can be stopped", async () => {
  const stop = arrive("moths.jpg");
  arrive("forest.png", { stage: "reading", progress: 0.75 });
  render(<Arrivals />);

  const bars = screen.getAllByRole("progressbar");
  expect(bars.map((bar) => bar.getAttribute("aria-valuenow"))).toEqual(["25", "75"]);
  expect(screen.getByText("being read")).toBeTruthy();
  await userEvent.click(screen.getAllByRole("button", { name: "Stop" })[0] as HTMLElement);

  expect(stop).toHaveBeenCalledOnce();
});

test("a refused file says why until it is dismissed", async () => {
  arrive("letter.jpg", {
    stage: "refused",
    reason: "This is not a picture of a kind that is read here.",
  });
  render(<Arrivals />);

  expect(screen.getByRole("alert").textContent).toContain(
    "This is not a picture of a kind that is read here.",
  );
  await userEvent.click(screen.getByRole("button", { name: "Dismiss letter.jpg" }));

  expect(screen.queryByRole("alert")).toBeNull();
});

test("many on their way are told of together, and can be stopped together", async () => {
  const stops = ["a", "b", "c"].map((name) => arrive(name, { progress: 0.5 }));
  arrive("d");
  useArrivals.getState().remove("d");
  render(<Arrivals />);

  const all = screen.getByRole("progressbar", { name: "All pictures on their way in" });
  expect(all.getAttribute("aria-valuenow")).toBe("63");
  expect(screen.getByText("1 of 4 are in")).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: "Stop all" }));

  for (const stop of stops) expect(stop).toHaveBeenCalledOnce();
});

test("a refused file can be tried again", async () => {
  const again = vi.fn();
  arrive("cut.jpg", { stage: "refused", reason: "It was cut short.", again });
  render(<Arrivals />);

  await userEvent.click(screen.getByRole("button", { name: "Try again" }));

  expect(again).toHaveBeenCalledOnce();
});
