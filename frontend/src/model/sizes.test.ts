import { expect, test } from "vitest";
import { fromPixels, laidOut, PRINT_SIZES, toPixels } from "@/model/sizes";
import { sayCount, sayLength, sayWhen } from "@/model/wording";

test("a print's length becomes pixels by its ppi", () => {
  expect(toPixels(30, "cm", 254)).toBe(3000);
  expect(toPixels(8, "in", 300)).toBe(2400);
  expect(toPixels(1080, "px", 96)).toBe(1080);
});

test("lengths come back from pixels", () => {
  expect(sayLength(fromPixels(toPixels(21, "cm", 300), "cm", 300))).toBe("21");
});

test("every print size can stand upright or lie on its side", () => {
  for (const size of PRINT_SIZES) {
    const upright = laidOut(size, true);
    const lying = laidOut(size, false);

    expect(upright.width).toBeLessThan(upright.height);
    expect(lying).toEqual({ width: upright.height, height: upright.width });
  }
});

test("times are said as people say them", () => {
  const now = new Date(2026, 5, 20, 12);
  const said = (month: number, day: number, hour: number) =>
    sayWhen(new Date(2026, month, day, hour).toISOString(), now);

  expect(sayWhen(now.toISOString(), now)).toBe("just now");
  expect(said(5, 20, 8)).toBe("today");
  expect(said(5, 19, 23)).toBe("yesterday");
  expect(said(5, 3, 12)).toBe("on 3 June");
});

test("one is not many", () => {
  expect([sayCount(1, "layer"), sayCount(2, "layer")]).toEqual(["1 layer", "2 layers"]);
});
