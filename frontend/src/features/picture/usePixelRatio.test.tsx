import { act, cleanup, render } from "@testing-library/react";
import type { ReactElement } from "react";
import { afterEach, expect, test, vi } from "vitest";
import { usePixelRatio } from "@/features/picture/usePixelRatio";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

function Ratio(): ReactElement {
  return <p>{usePixelRatio()}</p>;
}

/** Screens that the window can be moved between. */
class Screens {
  readonly #heard = new Map<string, Set<() => void>>();

  readonly matchMedia = (query: string) => {
    const heard = this.#heard.get(query) ?? new Set<() => void>();
    this.#heard.set(query, heard);
    return {
      addEventListener: (_: string, tell: () => void) => heard.add(tell),
      removeEventListener: (_: string, tell: () => void) => heard.delete(tell),
    };
  };

  moveTo(ratio: number): void {
    const before = `(resolution: ${window.devicePixelRatio}dppx)`;
    vi.stubGlobal("devicePixelRatio", ratio);
    act(() => {
      for (const tell of [...(this.#heard.get(before) ?? [])]) tell();
    });
  }

  get listeners(): number {
    return [...this.#heard.values()].reduce((sum, heard) => sum + heard.size, 0);
  }
}

test("a window on another screen has that one's ratio, however often it is moved", () => {
  const screens = new Screens();
  vi.stubGlobal("devicePixelRatio", 1);
  vi.stubGlobal("matchMedia", screens.matchMedia);
  const { container, unmount } = render(<Ratio />);

  for (const ratio of [2, 1.5, 3, 1]) {
    screens.moveTo(ratio);
    expect(container.textContent).toBe(String(ratio));
    expect(screens.listeners).toBe(1);
  }
  unmount();
  expect(screens.listeners).toBe(0);
});
