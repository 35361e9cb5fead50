import { expect, test } from "vitest";
import { isFound } from "@/model/searching";

test.each([
  ["", true],
  ["  ", true],
  ["dusk", true],
  ["fo du", true],
  ["DUSK forest", true],
  ["orest", false],
  ["dusk meadow", false],
  ["evening", true],
  ["!", true],
])("%j finds it: %s", (wanted, expected) => {
  expect(isFound(wanted, ["Forest at dusk", "an evening sky"])).toBe(expected);
});

test("accents and other scripts are found as they are typed", () => {
  expect(isFound("cafe", ["Café am Fluß"])).toBe(true);
  expect(isFound("ночь", ["Ночь 灯"])).toBe(true);
  expect(isFound("灯", ["Ночь 灯"])).toBe(true);
  expect(isFound("🦋", ["Moths"])).toBe(true);
});
