import { expect, test } from "vitest";
import { readCounts } from "@/state/toning";

test("counts come as own and behind, each of all and of each channel", () => {
  const bytes = new Uint8Array(2 * 4 * 256);
  bytes[0 * 256 + 7] = 1;
  bytes[3 * 256 + 8] = 2;
  bytes[4 * 256 + 9] = 3;
  bytes[5 * 256 + 255] = 255;
  const { own, behind } = readCounts(btoa(String.fromCharCode(...bytes)));

  expect([own.all[7], own.blue[8], behind.all[9], behind.red[255]]).toEqual([1, 2, 3, 255]);
  expect(own.green.every((height) => height === 0)).toBe(true);
});
