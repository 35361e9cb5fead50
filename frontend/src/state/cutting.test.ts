import { beforeEach, expect, it } from "vitest";
import { swapRough, useCutting } from "@/state/cutting";

const MATTE = { matte: "ab", level: 0, subjects: 0, rough: false };

beforeEach(() => useCutting.setState({ found: {}, does: "keep" }));

it("keeps what was found lately, and always that of the picture at hand", () => {
  const { keepFound } = useCutting.getState();
  keepFound("first", "by itself", MATTE);
  for (let at = 0; at < 100; at += 1) {
    keepFound(`picture ${at}`, "by itself", MATTE);
    keepFound("first", `stroke ${at}`, MATTE);
  }

  const { found } = useCutting.getState();
  expect(Object.keys(found)).toHaveLength(40);
  expect(found["picture 99"]).toEqual({ "by itself": MATTE });
  expect(Object.keys(found["first"] ?? {})).toHaveLength(60);
  expect(found["first"]?.["stroke 99"]).toEqual(MATTE);
});

it("swaps keeping and dropping, and begins to keep after a ring", () => {
  swapRough();
  expect(useCutting.getState().does).toBe("drop");
  useCutting.getState().set({ does: "ring" });
  swapRough();
  expect(useCutting.getState().does).toBe("keep");
});
