import { expect, test } from "vitest";
import { fitted, groundFor } from "@/model/fileGrounds";
import {
  type About,
  allLayers,
  articleOf,
  comparedIn,
  cropMoved,
  type FileFacts,
  type FileSettings,
  needsMatte,
  partIn,
  requestFor,
  sayBytes,
  sayGaveWay,
  sayNumber,
  sayPart,
  saySize,
  WHOLE,
  withFormat,
} from "@/model/finishing";
import { sampleLayer } from "@/testing/samples";

const SETTINGS: FileSettings = {
  format: "png",
  size: { by: "share", share: 1 },
  quality: 90,
  exact: false,
  fine_color: null,
  progressive: false,
  bits: 16,
  packing: "deflate",
  matte: "#ffffff",
  coloring: { space: "srgb", profile: null, intent: "relative", black_point: true },
  ground: null,
  paper: { bleed_mm: 0, bleed_from: "enlarged", marks: false, bar: false },
  tiling: null,
  letters: "letters",
  most_bytes: null,
  signed: true,
};
const ABOUT: About = { title: "", author: "", description: "", licence: "", alt: "" };
const INK = { ...SETTINGS.coloring, space: "ink" } as const;
const SHEET = { width: 100, height: 80 };
const CROP = { x: 20, y: 20, width: 40, height: 30 };

test("a new format lets go of what it cannot hold, and of nothing else", () => {
  const printed: FileSettings = { ...SETTINGS, format: "tiff", coloring: INK, quality: 71 };

  expect(withFormat(printed, "webp")).toEqual({
    ...printed,
    format: "webp",
    bits: 8,
    coloring: { ...INK, space: "srgb" },
  });
  expect(withFormat(printed, "pdf").coloring.space).toBe("ink");
  const poster = { ...printed, format: "pdf", bits: 8, tiling: tiling() } as const;
  expect(withFormat(poster, "jpeg").tiling).toBeNull();
});

const tiling = () => ({ width_mm: 210, height_mm: 297, margin_mm: 6, overlap_mm: 10 });

test("a colour lies behind where a file has no see-through, unless a ground does", () => {
  expect(needsMatte(SETTINGS)).toBe(false);
  expect(needsMatte({ ...SETTINGS, format: "jpeg" })).toBe(true);
  expect(needsMatte({ ...SETTINGS, format: "pdf", coloring: INK })).toBe(true);
  const ground = { across: 1, down: 1, color: "#ffffff" };
  expect(needsMatte({ ...SETTINGS, format: "jpeg", ground })).toBe(false);
});

test("each part is asked for by its own name, and no other", () => {
  const asked = (part: Parameters<typeof requestFor>[1]) => requestFor(SETTINGS, part, "r", ABOUT);
  const nothing = { apart: [], piece: null, trimmed: false, chosen: [], crop: null, compare: null };

  expect(asked(WHOLE)).toMatchObject({ ...nothing, revision: "r" });
  expect(asked({ what: "piece", layer: "a", trimmed: true })).toMatchObject({
    ...nothing,
    piece: "a",
    trimmed: true,
  });
  expect(asked({ what: "chosen", layers: ["a"] })).toMatchObject({ ...nothing, chosen: ["a"] });
  expect(asked({ what: "crop", crop: CROP })).toMatchObject({ ...nothing, crop: CROP });
});

test("a part that a format cannot hold is the whole", () => {
  const piece = { what: "piece", layer: "a", trimmed: false } as const;
  const apart = { what: "apart", layers: ["a"] } as const;

  // With all its layers, one alone would be no picture.
  expect(partIn(piece, "openraster")).toBe(WHOLE);
  expect(partIn(piece, "pdf")).toBe(piece);
  expect(partIn(apart, "pdf")).toBe(WHOLE);
  expect(partIn(apart, "png")).toBe(apart);
  expect([comparedIn("pdf"), comparedIn("webp")]).toEqual(["jpeg", "webp"]);
  expect([articleOf("avif"), articleOf("gif")]).toEqual(["An", "A"]);
});

test.each([
  ["left", { x: 5, y: 9 }, { x: 25, y: 20, width: 35, height: 30 }],
  ["bottom right", { x: 10, y: -10 }, { x: 20, y: 20, width: 50, height: 20 }],
  ["top", { x: 5, y: -50 }, { x: 20, y: 0, width: 40, height: 50 }],
  ["right", { x: 500, y: 0 }, { x: 20, y: 20, width: 80, height: 30 }],
  ["left", { x: 500, y: 0 }, { x: 52, y: 20, width: 8, height: 30 }],
  ["all", { x: -50, y: 500 }, { x: 0, y: 50, width: 40, height: 30 }],
])("the part's %s is led and stays on the sheet", (grip, by, wanted) => {
  expect(cropMoved(CROP, grip, by, SHEET)).toEqual(wanted);
});

test("what gave way is told, and nothing where nothing did", () => {
  const found = { quality: 62, width: 1200, height: 900 };

  expect(sayGaveWay({ ...found, gave_way: [] }, 500_000)).toBeNull();
  expect(sayGaveWay({ ...found, gave_way: ["quality"] }, 500_000)).toBe(
    "To stay under 500 kB it has quality 62.",
  );
  expect(sayGaveWay({ ...found, gave_way: ["quality", "size"] }, 1_000_000)).toBe(
    "To stay under 1 MB it has quality 62 and 1\u202f200 × 900 pixels.",
  );
  expect(sayGaveWay({ ...found, gave_way: ["size"] }, 1_000_000)).toBe(
    "To stay under 1 MB it has 1\u202f200 × 900 pixels.",
  );
});

test("numbers are told as people read them", () => {
  expect([sayBytes(999), sayBytes(1234), sayBytes(11_400_000)]).toEqual([
    "999 bytes",
    "1.2 kB",
    "11.4 MB",
  ]);
  expect([sayNumber(999), sayNumber(2894), sayNumber(1234567)]).toEqual([
    "999",
    "2\u202f894",
    "1\u202f234\u202f567",
  ]);
});

test("a size is told on paper where it was asked for on paper", () => {
  const facts = { width: 2894, height: 3839, trim_mm: [300, 400] } as unknown as FileFacts;
  const paper = { ...SETTINGS, size: { by: "paper", width_mm: null, ppi: null } } as const;

  expect(saySize(SETTINGS, facts, "cm")).toBe("2\u202f894 × 3\u202f839 pixels");
  expect(saySize(paper, facts, "cm")).toBe("30 × 40 cm");
  expect(saySize(paper, facts, "in")).toBe("11.8 × 15.7 in");
});

test("a part is called by its layer, the front ones first", () => {
  const layers = [sampleLayer("back"), sampleLayer("front")];

  expect(allLayers(layers).map(({ id }) => id)).toEqual(["front", "back"]);
  expect(sayPart({ what: "piece", layer: "front", trimmed: false }, layers)).toContain("alone");
  expect(sayPart({ what: "chosen", layers: ["front"] }, layers)).toBe("one chosen layer");
});

test("a picture is fitted into its room, never beyond its own pixels", () => {
  expect(fitted({ width: 2000, height: 1000 }, { width: 500, height: 500 }, 1)).toEqual({
    width: 500,
    height: 250,
    scale: 0.25,
  });
  expect(fitted({ width: 100, height: 50 }, { width: 500, height: 500 }, 2).width).toBe(50);
  expect([groundFor("web"), groundFor("own-1")]).toEqual(["white", "paper"]);
});
