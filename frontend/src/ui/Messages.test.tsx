import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Messages, type ShownMessage } from "@/ui/Messages";

beforeEach(() => {
  vi.useFakeTimers();
});

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const news: ShownMessage = { id: 1, tone: "news", text: "Poster is off the wall.", actions: [] };
const trouble: ShownMessage = { id: 2, tone: "trouble", text: "The layer is locked.", actions: [] };

function show(...messages: ShownMessage[]) {
  const onDismiss = vi.fn();
  render(<Messages messages={messages} onDismiss={onDismiss} />);
  return onDismiss;
}

test("news goes by itself after a while, trouble stays until it is dismissed", () => {
  const onDismiss = show(news, trouble);

  act(() => vi.advanceTimersByTime(60_000));

  expect(onDismiss.mock.calls).toEqual([[1]]);
});

test("messages are read out as they come", () => {
  show(trouble);

  const log = screen.getByRole("log", { name: "Messages" });
  expect(log.getAttribute("aria-live")).toBe("polite");
  expect(log.textContent).toContain("The layer is locked.");
});

test("what a message offers is done once, and the message goes", () => {
  const run = vi.fn();
  const onDismiss = show({ ...news, actions: [{ label: "Put it back", run }] });

  fireEvent.click(screen.getByRole("button", { name: "Put it back" }));

  expect(run).toHaveBeenCalledOnce();
  expect(onDismiss).toHaveBeenCalledWith(1);
});
