import { expect, test } from "vitest";
import { coverage, isVeil, takenByClick } from "@/model/reaching";
import { sampleLayer, samplePlacement } from "@/testing/samples";

const sheet = { width: 100, height: 80 };
const over = (scale: number, turn = 0, x = 50) =>
  samplePlacement({ x, y: 40, scale_x: scale, scale_y: scale, turn });

test.each([
  [over(1), (20 * 10) / 8000],
  [over(100), 1],
  [over(100, 30), 1],
  [over(1, 90), (20 * 10) / 8000],
  [over(5, 0, 0), (50 * 50) / 8000],
  [over(1, 0, 500), 0],
])("a layer covers the share of the sheet that it lies over", (placement, share) => {
  expect(coverage(sampleLayer("a", { placement }), sheet)).toBeCloseTo(share);
});

test("a layer that is looked through, over most of the sheet, is a veil", () => {
  const placement = over(100);

  expect(isVeil(sampleLayer("a", { placement, blend: "multiply" }), sheet)).toBe(true);
  expect(isVeil(sampleLayer("a", { placement, opacity: 0.59 }), sheet)).toBe(true);
  expect(isVeil(sampleLayer("a", { placement, opacity: 0.6 }), sheet)).toBe(false);
  expect(isVeil(sampleLayer("a", { blend: "multiply" }), sheet)).toBe(false);
});

test("a click passes over veils, unless nothing solid lies beneath", () => {
  const grain = sampleLayer("grain", { placement: over(100), blend: "multiply" });
  const haze = sampleLayer("haze", { placement: over(100), opacity: 0.3 });
  const puppet = sampleLayer("puppet", { opacity: 0.5 });

  expect(takenByClick([grain, haze, puppet], sheet)?.id).toBe("puppet");
  expect(takenByClick([grain, haze], sheet)?.id).toBe("grain");
  expect(takenByClick([], sheet)).toBeUndefined();
});
