// @vitest-environment jsdom

import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Edit } from "@/model/composite";
import { useDesk } from "@/state/desk/desk";
import { useCalmLive } from "@/state/useCalmLive";

beforeEach(() => {
  vi.useFakeTimers();
  useDesk.getState().actions.setLive(null);
});

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const step = (opacity: number): Edit => ({
  kind: "blend_layer",
  layer_id: "a",
  mode: "normal",
  opacity,
});
const move = (edit: Edit | null) => act(() => useDesk.getState().actions.setLive(edit));
const pass = (ms: number) => act(() => vi.advanceTimersByTime(ms));

test("many moves are told some times a second, the last of them always", () => {
  let renders = 0;
  const { result } = renderHook(() => {
    renders += 1;
    return useCalmLive();
  });

  for (let moved = 1; moved <= 50; moved += 1) {
    move(step(moved / 100));
    pass(10);
  }
  pass(200);

  expect(result.current).toEqual(step(0.5));
  expect(renders).toBeLessThan(8);
});

test("the end of a drag is told at once", () => {
  const { result } = renderHook(() => useCalmLive());
  move(step(0.3));
  pass(200);
  expect(result.current).toEqual(step(0.3));

  move(null);
  expect(result.current).toBeNull();
  pass(500);

  expect(result.current).toBeNull();
});

test("a drag that is under way is known from the start", () => {
  move(step(0.7));

  expect(renderHook(() => useCalmLive()).result.current).toEqual(step(0.7));
});
