import { beforeEach, expect, it } from "vitest";
import { NO_HINTS } from "@/model/mattes";
import { stopFinding, swapRough, useCutting } from "@/state/cutting";

const MATTE = { matte: "ab", level: 0, subjects: 0, rough: false };

beforeEach(() => useCutting.setState({ found: {}, findings: {}, does: "keep" }));

it("keeps what was found lately, and always that of the picture at hand", () => {
  const { keepFound } = useCutting.getState();
  keepFound("the first", "by itself", MATTE);
  for (let at = 0; at < 100; at += 1) {
    keepFound(`picture ${at}`, "by itself", MATTE);
    keepFound("the first", `stroke ${at}`, MATTE);
  }

  const { found } = useCutting.getState();
  expect(Object.keys(found)).toHaveLength(40);
  expect(found["picture 99"]).toEqual({ "by itself": MATTE });
  expect(Object.keys(found["the first"] ?? {})).toHaveLength(60);
  expect(found["the first"]?.["stroke 99"]).toEqual(MATTE);
});

it("swaps keeping and dropping, and begins to keep after a ring", () => {
  swapRough();
  expect(useCutting.getState().does).toBe("drop");
  useCutting.getState().set({ does: "ring" });
  swapRough();
  expect(useCutting.getState().does).toBe("keep");
});

it("finds in several layers side by side, and stops all of them", () => {
  const { setFinding } = useCutting.getState();
  const stopped: string[] = [];
  for (const layer of ["one", "other"]) {
    const stop = () => {
      stopped.push(layer);
      setFinding(layer, null);
    };
    setFinding(layer, { progress: 0, shown: null, hints: NO_HINTS, stop });
  }

  setFinding("one", { progress: 0.5, shown: null, hints: NO_HINTS, stop: () => undefined });
  expect(Object.keys(useCutting.getState().findings).sort()).toEqual(["one", "other"]);
  setFinding("one", null);
  stopFinding();

  expect(stopped).toEqual(["other"]);
  expect(useCutting.getState().findings).toEqual({});
});
