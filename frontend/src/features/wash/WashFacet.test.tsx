import { cleanup, fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test } from "vitest";
import { WashFacet } from "@/features/wash/WashFacet";
import type { ColorLayer, GradientLayer } from "@/model/composite";
import { useDesk } from "@/state/desk/desk";
import { deskWith, showOnDesk } from "@/testing/desk";

afterEach(cleanup);

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
const colour: ColorLayer = { ...shared, id: "c", kind: "color", color: "#c0562f" };
const gradient: GradientLayer = {
  ...shared,
  id: "g",
  kind: "gradient",
  gradient: {
    shape: "linear",
    x: 50,
    y: 40,
    length: 80,
    angle: 90,
    start: { color: "#ff8000", opacity: 1 },
    end: { color: "#102040", opacity: 0 },
  },
};

test("a colour is shown while it is chosen, and saved once when it is", () => {
  const desk = deskWith(colour);
  showOnDesk(desk, <WashFacet layer={colour} />);
  const well = screen.getByLabelText("Any colour");

  fireEvent.input(well, { target: { value: "#112233" } });
  expect(useDesk.getState().live).toEqual({ kind: "tint_layer", layer_id: "c", color: "#112233" });
  expect(desk.edits).toEqual([]);
  fireEvent.change(well, { target: { value: "#224466" } });

  expect(desk.edits).toEqual([{ kind: "tint_layer", layer_id: "c", color: "#224466" }]);
  expect(useDesk.getState().live).toBeNull();
});

test("the ends of a gradient are exchanged with one press", async () => {
  const desk = deskWith(gradient);
  showOnDesk(desk, <WashFacet layer={gradient} />);

  await userEvent.click(screen.getByRole("button", { name: "Exchange its ends" }));

  expect(desk.edits[0]).toMatchObject({
    kind: "grade_layer",
    gradient: { start: gradient.gradient.end, end: gradient.gradient.start, angle: 90 },
  });
});

test("either end may be made clear", async () => {
  const desk = deskWith(gradient);
  showOnDesk(desk, <WashFacet layer={gradient} />);
  const [from] = screen.getAllByRole("textbox", { name: "Strength, exact" });

  await userEvent.clear(from as HTMLElement);
  await userEvent.type(from as HTMLElement, "0{Enter}");

  expect(desk.edits[0]).toMatchObject({
    gradient: { start: { color: "#ff8000", opacity: 0 }, end: { opacity: 0 } },
  });
});

test("a round gradient has no angle", async () => {
  const round = { ...gradient, gradient: { ...gradient.gradient, shape: "round" as const } };
  showOnDesk(deskWith(round), <WashFacet layer={round} />);

  expect(screen.queryByRole("textbox", { name: "Angle" })).toBeNull();
  expect(screen.getByRole("textbox", { name: "Length" })).toHaveProperty("value", "80");
});

test("a locked wash offers nothing to change", () => {
  const locked = { ...gradient, locked: true };
  showOnDesk(deskWith(locked), <WashFacet layer={locked} />);

  expect(screen.getByRole("button", { name: "Exchange its ends" })).toHaveProperty(
    "disabled",
    true,
  );
  expect(screen.getByLabelText("From: any colour")).toHaveProperty("disabled", true);
});
