import { describe, expect, it } from "vitest";
import { besideByKeys, dropPlace } from "@/model/piling";
import { sampleComposite, sampleGroup, sampleLayer, samplePlacement } from "@/testing/samples";

const [sky, moths, puppet] = [sampleLayer("sky"), sampleLayer("moths"), sampleLayer("puppet")];
const members = [sampleLayer("left"), sampleLayer("right")];
const pair = sampleGroup("pair", samplePlacement(), ...members);
const pile = sampleComposite(sky, moths, pair, puppet);

describe("dropPlace", () => {
  it("counts places without the dragged layer", () => {
    expect(dropPlace(pile, "sky", "puppet", "over")).toEqual({ into: null, index: 3 });
    expect(dropPlace(pile, "sky", "puppet", "under")).toEqual({ into: null, index: 2 });
    expect(dropPlace(pile, "puppet", "sky", "under")).toEqual({ into: null, index: 0 });
  });

  it("is nowhere where the layer lies already", () => {
    expect(dropPlace(pile, "sky", "moths", "under")).toBeNull();
    expect(dropPlace(pile, "moths", "sky", "over")).toBeNull();
    expect(dropPlace(pile, "right", "pair", "inside")).toBeNull();
  });

  it("leads into groups and out of them", () => {
    expect(dropPlace(pile, "sky", "pair", "inside")).toEqual({ into: "pair", index: 2 });
    expect(dropPlace(pile, "sky", "left", "over")).toEqual({ into: "pair", index: 1 });
    expect(dropPlace(pile, "left", "puppet", "over")).toEqual({ into: null, index: 4 });
  });

  it("keeps a group out of itself, and everything out of locked groups", () => {
    const locked = sampleComposite(sky, { ...pair, locked: true });

    expect(dropPlace(pile, "pair", "left", "over")).toBeNull();
    expect(dropPlace(pile, "pair", "pair", "inside")).toBeNull();
    expect(dropPlace(locked, "sky", "pair", "inside")).toBeNull();
    expect(dropPlace(locked, "left", "sky", "under")).toBeNull();
    expect(dropPlace(locked, "left", "right", "over")).toEqual({ into: "pair", index: 1 });
  });

  it("is nowhere on what is gone, and inside of what is no group", () => {
    expect(dropPlace(pile, "sky", "gone", "over")).toBeNull();
    expect(dropPlace(pile, "sky", "moths", "inside")).toBeNull();
  });
});

describe("besideByKeys", () => {
  it("takes the other one's place, whichever way the layer comes", () => {
    expect(besideByKeys(pile, "sky", "puppet")).toBe("over");
    expect(besideByKeys(pile, "puppet", "sky")).toBe("under");
    expect(besideByKeys(pile, "left", "sky")).toBe("over");
  });
});
