import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { keep, kept, keptNames } from "@/browser/storage";
import { followTheme } from "@/features/wall/useTheme";
import { useSettings } from "@/state/settings";

beforeEach(() => {
  localStorage.clear();
  vi.stubGlobal("matchMedia", () => ({ matches: true, addEventListener: () => undefined }));
});

afterEach(() => {
  vi.unstubAllGlobals();
});

const forbid = () =>
  vi.stubGlobal("localStorage", undefined) &&
  Object.defineProperty(globalThis, "localStorage", {
    configurable: true,
    get: () => {
      throw new DOMException("The operation is insecure.", "SecurityError");
    },
  });

test("what is kept is there again, and gone when it is let go", () => {
  expect(keep("b", "two") && keep("a", "one")).toBe(true);
  expect([kept("a"), kept("c")]).toEqual(["one", null]);
  expect(keptNames()).toEqual(["a", "b"]);

  keep("a", null);

  expect(keptNames()).toEqual(["b"]);
});

test("where storage is forbidden the page opens, and settings hold for the window", () => {
  forbid();

  followTheme();
  useSettings.getState().setUnit("cm");

  expect(document.documentElement.getAttribute("data-theme")).toBe("night");
  expect(useSettings.getState().unit).toBe("cm");
  expect([kept("a"), keep("a", "one"), keptNames()]).toEqual([null, false, []]);
});
