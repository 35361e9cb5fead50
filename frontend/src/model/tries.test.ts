import { expect, test } from "vitest";
import type { ColorLayer, GradientLayer } from "@/model/composite";
import { firstGradient } from "@/model/gradients";
import { colorTries, gradientTries, STRENGTHS, tryMode, tryStrength } from "@/model/tries";
import { sampleLayer } from "@/testing/samples";

const canvas = { width: 300, height: 200, ppi: 240, background: null };
const layer = sampleLayer("a", { blend: "screen", opacity: 0.4 });
const shared = {
  name: "Wash",
  blend: "normal",
  opacity: 1,
  visible: true,
  locked: false,
  mask: null,
  fades: [],
  effects: [],
} as const;
const gradient: GradientLayer = {
  ...shared,
  id: "g",
  kind: "gradient",
  gradient: firstGradient(canvas, "#ff8000"),
};
const colour: ColorLayer = { ...shared, id: "c", kind: "color", color: "#808080" };

test("another mode keeps the strength, another strength the mode", () => {
  expect(tryMode(layer, "multiply")).toMatchObject({ mode: "multiply", opacity: 0.4 });
  expect(tryStrength(layer, 0.8)).toMatchObject({ mode: "screen", opacity: 0.8 });
  expect(STRENGTHS).toEqual([...STRENGTHS].sort());
});

test("a new gradient is the first of its own tries", () => {
  const chosen = gradientTries(gradient, canvas).flatMap(({ tries }) =>
    tries.filter(({ isChosen }) => isChosen),
  );

  expect(chosen.map(({ title }) => title)).toEqual(["Downwards"]);
});

test("every way to run keeps the gradient's colours", () => {
  const edits = gradientTries(gradient, canvas).flatMap(({ tries }) =>
    tries.map(({ edit }) => edit),
  );

  expect(edits).toHaveLength(7);
  for (const edit of edits) {
    expect(edit).toMatchObject({
      kind: "grade_layer",
      gradient: { start: gradient.gradient.start, end: gradient.gradient.end },
    });
  }
});

test("colours of the picture come before plain ones, and the present one is marked", () => {
  const [offered, plain] = colorTries(colour, ["#203040", "#c08040"]);

  expect(offered?.tries.map(({ title }) => title)).toEqual(["#203040", "#c08040"]);
  expect(plain?.tries.map(({ isChosen }) => isChosen)).toEqual([false, true, false]);
});
