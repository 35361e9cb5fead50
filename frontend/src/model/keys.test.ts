import { expect, test } from "vitest";
import {
  askedStrokes,
  deedOf,
  FIXED_KEYS,
  KEY_DEEDS,
  readKeys,
  sayStroke,
  strokeOf,
  strokesFor,
  withKeys,
} from "@/model/keys";

const press = (key: string, shiftKey = false) => ({ key, shiftKey });
const chord = { ctrlKey: false, metaKey: false, altKey: false };
const does = (key: string, own = {}, shiftKey = false) => deedOf(press(key, shiftKey), own)?.id;

test("no key does two things, and none that is fixed can be taken", () => {
  const strokes = KEY_DEEDS.flatMap((deed) => deed.keys as readonly string[]);

  expect(new Set(strokes).size).toBe(strokes.length);
  expect(new Set(KEY_DEEDS.map(({ does }) => does)).size).toBe(KEY_DEEDS.length);
  expect(new Set(FIXED_KEYS.map(({ does }) => does)).size).toBe(FIXED_KEYS.length);
  for (const key of ["Escape", "Enter", "Tab", " ", "?", "ArrowUp", "Shift"]) {
    expect(strokeOf(press(key))).toBeNull();
  }
});

test("Shift counts for letters, Caps Lock does not", () => {
  expect(strokeOf(press("U", true))).toBe("Shift u");
  expect(strokeOf(press("U"))).toBe("u");
  expect(strokeOf(press("+", true))).toBe("+");
  expect(strokeOf(press("Ж", true))).toBe("Shift ж");
  expect([does("U", {}, true), does("U"), does("K", {}, true)]).toEqual([
    "apart",
    "together",
    "lock",
  ]);
});

test("a key that is set is taken from what had it", () => {
  const own = withKeys({}, "copy", ["k"]);

  expect([does("k", own), does("l", own)]).toEqual(["copy", undefined]);
  expect(own).toEqual({ copy: ["k"], lock: [] });
  const lock = KEY_DEEDS.find(({ id }) => id === "lock");
  expect(lock && strokesFor(lock, own)).toEqual([]);
  expect(does("k", withKeys(own, "copy", []))).toBeUndefined();
});

test("a deed with several keys keeps those that were not taken", () => {
  const own = withKeys({}, "copy", ["="]);

  expect([does("=", own), does("+", own)]).toEqual(["copy", "closer"]);
});

test("while a key is set, chords ask for nothing, and Backspace for none", () => {
  expect(askedStrokes({ ...press("x"), ...chord }, "copy")).toEqual(["x"]);
  expect(askedStrokes({ ...press("x"), ...chord, ctrlKey: true }, "copy")).toBeNull();
  expect(askedStrokes({ ...press("Escape"), ...chord }, "copy")).toBeNull();
  expect(askedStrokes({ ...press("Backspace"), ...chord }, "copy")).toEqual([]);
  expect(askedStrokes({ ...press("Backspace"), ...chord }, "remove")).toEqual(["Backspace"]);
});

test.each([
  null,
  "",
  "null",
  "[1]",
  "{",
  '"copy"',
  '{"copy": 3, "nobody": ["x"], "lock": ["Escape"], "hide": [""], "place": ["Shift "]}',
  `{"copy": ["${"x".repeat(200)}"], "lock": "x"}`,
])("what makes no sense of keys that were kept is passed over: %s", (kept) => {
  expect(readKeys(kept)).toEqual({});
});

test("keys that were kept are read again, each key once", () => {
  expect(readKeys('{"copy": ["x"], "lock": []}')).toEqual({ copy: ["x"], lock: [] });
  expect(readKeys('{"copy": ["x"], "lock": ["x"]}')).toEqual({ copy: [], lock: ["x"] });
});

test("keys are called as on keyboards", () => {
  expect(["Shift u", "PageUp", "-", "p", "F2"].map(sayStroke)).toEqual([
    "Shift + U",
    "Page up",
    "−",
    "P",
    "F2",
  ]);
});
