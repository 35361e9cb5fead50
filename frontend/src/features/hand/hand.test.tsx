import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import type { ReactElement } from "react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useStagePointer } from "@/features/hand/usePointer";
import type { Edit, Layer, Placement } from "@/model/composite";
import { drawLine } from "@/model/drawing";
import { roughLine } from "@/model/mattes";
import { MENDING } from "@/model/mends";
import { useBrush } from "@/state/brush";
import { useCutting } from "@/state/cutting";
import { useDesk } from "@/state/desk/desk";
import { useDrawing } from "@/state/drawing";
import { useHelping } from "@/state/helping";
import { useMending } from "@/state/mending";
import { useShaping } from "@/state/shaping";
import { deskWith, showOnDesk, type TestDesk } from "@/testing/desk";
import { sampleLayer } from "@/testing/samples";
import { lookForBlank } from "@/work/blank";

const held = vi.fn();
const captured = new Set<number>();
let desk: TestDesk;

beforeEach(() => {
  held.mockClear();
  captured.clear();
  // jsdom has no pointers to capture.
  Element.prototype.setPointerCapture = (id) => void captured.add(id);
  Element.prototype.releasePointerCapture = (id) => void captured.delete(id);
  Element.prototype.hasPointerCapture = (id) => captured.has(id);
  useDrawing.getState().setCorners([]);
  useHelping.getState().clear();
  useShaping.setState({ blank: null, isLevelling: false });
  useCutting.setState({ does: "keep", trace: [], findings: {} });
  useMending.setState({ trace: [] });
  useBrush.setState({ size: 20, softness: 0.5, strength: 1, shows: false });
});

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

function Ground(): ReactElement {
  const { spaceHeld, ...pointer } = useStagePointer(held);
  return (
    <div data-testid="stage" data-stage="" data-pans={spaceHeld} {...pointer}>
      <i data-testid="corner" data-grip="2" />
      <i data-testid="edge" data-grip="crop-right" />
    </div>
  );
}

const AT_ONE = { x: 0, y: 0, scale: 1 };

/** Show a stage of 400 by 300 on which one pixel of the canvas is one of the page. */
function stage(...layers: Layer[]): void {
  desk = deskWith(...layers);
  const { setStage, setView } = useDesk.getState().actions;
  setStage({ width: 400, height: 300 });
  setView(AT_ONE);
  showOnDesk(desk, <Ground />);
}

interface Finger {
  readonly pointerId?: number;
  readonly button?: number;
  readonly shiftKey?: boolean;
  readonly altKey?: boolean;
  readonly ctrlKey?: boolean;
  readonly pressure?: number;
  readonly pointerType?: string;
  readonly on?: string;
}

function pointer(
  kind: string,
  x: number,
  y: number,
  { on = "stage", ...finger }: Finger = {},
): void {
  const said = { pointerId: 1, pointerType: "mouse", pressure: 0.5, button: 0, ...finger };
  const event = new PointerEvent(kind, { clientX: x, clientY: y, bubbles: true, ...said });
  fireEvent(screen.getByTestId(on), event);
}

const down = (x: number, y: number, finger?: Finger) => pointer("pointerdown", x, y, finger);
const move = (x: number, y: number, finger?: Finger) => pointer("pointermove", x, y, finger);
const up = (finger?: Finger) => pointer("pointerup", 0, 0, finger);

/** All ways in which a drag is broken off. */
const BREAKS = {
  "the system": () => pointer("pointercancel", 0, 0),
  "a lost capture": () => pointer("lostpointercapture", 0, 0),
  Escape: () => void fireEvent.keyDown(document.body, { key: "Escape" }),
} as const;
const breaks = Object.entries(BREAKS);

const photo = (id: string, placement: Partial<Placement> = {}): Layer =>
  ({
    ...sampleLayer(id),
    width: 100,
    height: 80,
    placement: {
      ...sampleLayer(id).placement,
      x: 100,
      y: 80,
      scale_x: 1,
      scale_y: 1,
      ...placement,
    },
  }) as Layer;

const placed = (edit: Edit | undefined) => (edit?.kind === "place_layer" ? edit.placement : null);

test("a layer goes where it is dragged, shown on the way and one edit in the end", () => {
  stage(photo("a"));

  down(100, 80, { altKey: true });
  move(130, 90, { altKey: true });
  expect(placed(useDesk.getState().live ?? undefined)).toMatchObject({ x: 130, y: 90 });
  move(140, 120, { altKey: true });
  up();

  expect(desk.edits).toHaveLength(1);
  expect(placed(desk.edits[0])).toMatchObject({ x: 140, y: 120 });
  expect(useDesk.getState().live).toBeNull();
});

test("a press that hardly moves takes the layer, and moves nothing", () => {
  stage(photo("a"));

  down(100, 80);
  move(101, 81);
  up();

  expect(desk.edits).toEqual([]);
  expect(useDesk.getState().openLayer).toBe("a");
});

test("a second finger neither takes over nor bends what the first has begun", () => {
  stage(photo("a"));

  down(100, 80, { altKey: true });
  move(120, 80, { altKey: true });
  down(300, 200, { pointerId: 2 });
  move(10, 10, { pointerId: 2 });
  up({ pointerId: 2 });
  expect(desk.edits).toEqual([]);
  expect(placed(useDesk.getState().live ?? undefined)).toMatchObject({ x: 120 });
  move(150, 80, { altKey: true });
  up();

  expect(desk.edits.map((edit) => placed(edit)?.x)).toEqual([150]);
});

test.each(breaks)("a layer whose drag is broken off by %s lies where it lay", (_, breakOff) => {
  stage(photo("a"));
  down(100, 80);
  move(160, 120);

  act(breakOff);
  move(200, 200);
  up();

  expect(desk.edits).toEqual([]);
  expect(useDesk.getState().live).toBeNull();
  expect(useHelping.getState().snap).toBeNull();
  down(100, 80, { altKey: true });
  move(120, 80, { altKey: true });
  up();
  expect(desk.edits).toHaveLength(1);
});

test("a press that stays where it is opens what lies there, and drags nothing after", () => {
  vi.useFakeTimers();
  stage(photo("a"));
  down(100, 80);

  act(() => void vi.advanceTimersByTime(1000));
  move(200, 200);
  up();

  expect(held).toHaveBeenCalledWith({ x: 100, y: 80 });
  expect(desk.edits).toEqual([]);
});

test("a press that was let go opens nothing later", () => {
  vi.useFakeTimers();
  stage(photo("a"));
  down(100, 80);
  up();

  act(() => void vi.advanceTimersByTime(1000));

  expect(held).not.toHaveBeenCalled();
});

test("a press on the open layer takes the one in front of it, unless it stays", () => {
  vi.useFakeTimers();
  stage(photo("a"), photo("b"));
  useDesk.getState().actions.open("a", "place");

  down(100, 80);
  act(() => void vi.advanceTimersByTime(1000));
  up();
  expect(useDesk.getState().openLayer).toBe("a");
  down(100, 80);
  up();

  expect(useDesk.getState().openLayer).toBe("b");
});

test("a layer comes to rest on the sheet's edge, and nowhere with Alt", () => {
  stage(photo("a"));

  down(100, 80);
  move(54, 100);
  expect(useHelping.getState().snap).not.toBeNull();
  up();
  down(50, 100, { altKey: true });
  move(58, 104, { altKey: true });
  up();

  expect(desk.edits.map((edit) => placed(edit)?.x)).toEqual([50, 108]);
});

test("with Control a copy is moved and opened", () => {
  stage(photo("a"));

  down(100, 80, { ctrlKey: true });
  move(130, 85, { ctrlKey: true });
  up();

  const [edit] = desk.edits;
  expect(edit).toMatchObject({ kind: "duplicate_layer", layer_id: "a", shift: [30, 5] });
  expect(useDesk.getState().openLayer).toBe(edit?.kind === "duplicate_layer" && edit.copy_id);
});

test("a corner scales, from the opposite corner on", () => {
  stage(photo("a"));
  useDesk.getState().actions.open("a", "place");

  down(150, 120, { on: "corner" });
  move(200, 160, { on: "corner" });
  up({ on: "corner" });

  const placement = placed(desk.edits[0]);
  expect(placement?.scale_x).toBeCloseTo(1.5);
  expect(placement).toMatchObject({ x: 125, y: 100 });
});

test("the middle button drags the view, whatever lies there", () => {
  stage(photo("a"));

  down(100, 80, { button: 1 });
  move(90, 60, { button: 1 });
  up({ button: 1 });

  expect(useDesk.getState().view).toEqual({ x: 10, y: 20, scale: 1 });
  expect(desk.edits).toEqual([]);
});

test("a press where nothing lies closes the open layer", () => {
  stage(photo("a"));
  useDesk.getState().actions.open("a", "place");

  down(390, 290);
  up();

  expect(useDesk.getState().openLayer).toBeNull();
});

function ready(line: string): void {
  const layer = photo("a");
  stage(layer);
  useDesk.getState().actions.open("a", "cut");
  useDesk.getState().actions.openLine(line);
}

const painting = () => {
  const brush = { id: "hand", kind: "painted", last: null, strokes: 0 };
  const mask = { parts: [{ ...brush, join: "add", inverted: false, works: true }] };
  const layer = { ...photo("a"), mask: { ...EMPTY, ...mask } } as unknown as Layer;
  stage(layer);
  useDesk.getState().actions.open("a", "cut");
  useDesk.getState().actions.openLine("hand");
};

const EMPTY = {
  inverted: false,
  linked: true,
  strength: 1,
  softened: 0,
  grown: 0,
  smoothed: 0,
  cleaned: 0,
  to_mask: [1, 0, 0, 0, 1, 0],
};

const stroke = (edit: Edit | undefined) =>
  edit?.kind === "paint_stroke" ? edit.stroke : undefined;

test("a stroke goes through where the pointer went, in the photo's own pixels", () => {
  painting();

  down(60, 50);
  move(80, 60);
  move(120, 90);
  expect(useDesk.getState().trace?.points).toHaveLength(3);
  up();

  expect(stroke(desk.edits[0])?.points).toEqual([
    [10, 10, 1],
    [30, 20, 1],
    [70, 50, 1],
  ]);
});

test("zooming in the middle of a stroke bends nothing", () => {
  painting();

  down(60, 50);
  act(() => useDesk.getState().actions.setView({ x: 50, y: 40, scale: 2 }));
  move(60, 60);
  up();

  // Where the pointer is now, by the view of now: 50 + 60 / 2, 40 + 60 / 2.
  expect(stroke(desk.edits[0])?.points).toEqual([
    [10, 10, 1],
    [30, 30, 1],
  ]);
});

test("a brush that is changed in the middle of a stroke is for the next one", () => {
  painting();

  down(60, 50);
  act(() => useBrush.setState({ size: 90, shows: true, softness: 0 }));
  move(100, 50);
  up();

  expect(stroke(desk.edits[0])).toMatchObject({ size: 20, shows: false, softness: 0.5 });
});

test("only pens press harder", () => {
  painting();

  down(60, 50, { pointerType: "pen", pressure: 0.3 });
  move(80, 50, { pointerType: "pen", pressure: 0.8 });
  up();

  expect(stroke(desk.edits[0])?.points.map((point) => point[2])).toEqual([0.3, 0.8]);
});

test("with Shift a stroke begins where the last one ended", () => {
  painting();
  down(60, 50);
  move(80, 50);
  up();

  down(110, 90, { shiftKey: true });
  up();

  expect(stroke(desk.edits[1])?.points).toEqual([
    [30, 10, 1],
    [60, 50, 1],
  ]);
});

test.each(breaks)("of a stroke that is broken off by %s nothing stays", (_, breakOff) => {
  painting();
  down(60, 50);
  move(80, 50);

  act(breakOff);
  up();

  expect(desk.edits).toEqual([]);
  expect([useDesk.getState().live, useDesk.getState().trace]).toEqual([null, null]);
});

test("an ellipse is drawn from corner to corner, also where the view changes meanwhile", () => {
  ready(drawLine("ellipse"));

  down(70, 60);
  act(() => useDesk.getState().actions.setView({ x: 0, y: 0, scale: 2 }));
  move(220, 180);
  up();

  expect(desk.edits[0]).toMatchObject({
    kind: "add_part",
    part: { kind: "ellipse", x: 40, y: 35, width: 40, height: 30 },
  });
});

test.each(breaks)("a shape that is broken off by %s is none", (_, breakOff) => {
  ready(drawLine("rectangle"));
  down(70, 60);
  move(110, 90);

  act(breakOff);
  up();

  expect(desk.edits).toEqual([]);
  expect(useDesk.getState().live).toBeNull();
});

test.each(breaks)(
  "an outline that is broken off by %s has the corners of before",
  (_, breakOff) => {
    ready(drawLine("outline"));
    down(70, 60);
    up();
    const [before] = [useDrawing.getState().corners];
    down(120, 100);
    move(140, 110);

    act(breakOff);

    expect(useDrawing.getState().corners).toEqual(before);
  },
);

test("a mend goes over what the hand went over, and leaves no trace behind", () => {
  ready(MENDING);

  down(70, 60);
  move(100, 80);
  expect(useMending.getState().trace).toHaveLength(2);
  up();

  expect(desk.edits[0]).toMatchObject({ kind: "mend_photo", layer_id: "a" });
  expect(useMending.getState().trace).toEqual([]);
});

test.each(breaks)("marks that are broken off by %s are gone", (_, breakOff) => {
  for (const line of [MENDING, roughLine("one")]) {
    ready(line);
    down(70, 60);
    move(100, 80);
    act(breakOff);
    up();
    cleanup();
  }

  expect(desk.edits).toEqual([]);
  expect(useMending.getState().trace).toEqual([]);
  expect(useCutting.getState().trace).toEqual([]);
});

test("a ring round several layers chooses them; a press with Shift lets one go", () => {
  stage(photo("a", { x: 60, y: 60 }), photo("b", { x: 220, y: 60 }));

  down(2, 2, { shiftKey: true });
  for (const [x, y] of [
    [300, 2],
    [300, 150],
    [100, 150],
    [2, 150],
  ] as const) {
    move(x, y, { shiftKey: true });
  }
  expect(useHelping.getState().ring).toHaveLength(5);
  up();
  expect(useDesk.getState().chosen).toEqual(["a", "b"]);

  down(220, 60, { shiftKey: true });
  up();
  expect(useDesk.getState().chosen).toEqual(["a"]);
});

test("several that are chosen are moved as one", () => {
  stage(photo("a", { x: 60, y: 60 }), photo("b", { x: 220, y: 60 }));
  useDesk.getState().actions.choose(["a", "b"]);

  down(60, 60, { altKey: true });
  move(70, 65, { altKey: true });
  up();

  expect(desk.edits).toHaveLength(1);
  expect(desk.edits[0]).toMatchObject({ kind: "place_layers" });
});

test("a side of the sheet is pulled; broken off, nothing of its frame is left", () => {
  stage(photo("a"));
  useDesk.getState().actions.setSheet(true);

  down(100, 40, { on: "edge" });
  move(140, 40, { on: "edge" });
  expect(useHelping.getState().frame).toMatchObject({ width: 140 });
  up({ on: "edge" });
  expect(desk.edits[0]).toMatchObject({ kind: "set_canvas", canvas: { width: 140 } });

  down(100, 40, { on: "edge" });
  move(160, 40, { on: "edge" });
  pointer("pointercancel", 0, 0, { on: "edge" });
  expect(desk.edits).toHaveLength(1);
  expect(useHelping.getState().frame).toBeNull();
  expect(useDesk.getState().live).toBeNull();
});

test("a stroke over a blank place that is broken off can be made anew", () => {
  stage(photo("a"));
  useDesk.getState().actions.open("a", "place");
  lookForBlank();

  down(10, 10);
  move(40, 40);
  pointer("pointercancel", 0, 0);

  expect(useShaping.getState().blank).toEqual([]);
});

test("the menu is asked for where the pointer is, and in the middle by the key", () => {
  stage(photo("a"));
  const target = screen.getByTestId("stage");
  target.getBoundingClientRect = () => new DOMRect(0, 0, 400, 300);

  fireEvent.contextMenu(target, { clientX: 90, clientY: 70, button: 2 });
  fireEvent.contextMenu(target, { clientX: 0, clientY: 0, button: 0 });

  expect(held.mock.calls).toEqual([[{ x: 90, y: 70 }], [{ x: 200, y: 150 }]]);
});
