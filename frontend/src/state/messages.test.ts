import { beforeEach, expect, test } from "vitest";
import { useMessages } from "@/state/messages";

beforeEach(() => useMessages.setState({ messages: [] }));

const shown = () => useMessages.getState().messages.map(({ text }) => text);

test("news makes room for news, and pushes no trouble out", () => {
  const { say, warn } = useMessages.getState();
  warn("The disk is full.");
  for (const text of ["one", "two", "three", "four", "five"]) say(text);

  expect(shown()).toEqual(["The disk is full.", "three", "four", "five"]);
});

test("what is told again is told last, and once", () => {
  const { say, warn } = useMessages.getState();
  warn("Connection lost.");
  say("one");
  warn("Connection lost.");

  expect(shown()).toEqual(["one", "Connection lost."]);
});

test("even of trouble no more is kept than fits", () => {
  for (let at = 0; at < 50; at += 1) useMessages.getState().warn(`trouble ${at}`);

  expect(shown()).toHaveLength(6);
  expect(shown().at(-1)).toBe("trouble 49");
});
