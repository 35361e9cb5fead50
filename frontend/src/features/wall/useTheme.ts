/** Day or night, remembered by the browser; until one is chosen, as the system has it. */

import { useSyncExternalStore } from "react";

export type Theme = "day" | "night";

const KEY = "glyphaneme.theme";
const listeners = new Set<() => void>();

/** Put the theme onto the page, and turn it when the system or another window does. */
export function followTheme(): void {
  apply();
  system().addEventListener("change", apply);
  window.addEventListener("storage", apply);
}

export function useTheme(): readonly [Theme, (theme: Theme) => void] {
  return [useSyncExternalStore(subscribe, current), choose];
}

function system(): MediaQueryList {
  return window.matchMedia("(prefers-color-scheme: dark)");
}

function current(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === "day" || kept === "night") return kept;
  return system().matches ? "night" : "day";
}

function apply(): void {
  document.documentElement.setAttribute("data-theme", current());
  for (const tell of listeners) tell();
}

function choose(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  apply();
}

function subscribe(tell: () => void): () => void {
  listeners.add(tell);
  return () => listeners.delete(tell);
}
