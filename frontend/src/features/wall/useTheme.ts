/** Day or night, remembered by the browser; until one is chosen, as the system has it. */

import { useSyncExternalStore } from "react";
import { keep, kept } from "@/browser/storage";

export type Theme = "day" | "night";

const KEY = "glyphaneme.theme";
/** What was chosen in this window, wherever the browser keeps nothing. */
let chosenHere: Theme | null = null;
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
  const theme = kept(KEY) ?? chosenHere;
  if (theme === "day" || theme === "night") return theme;
  return system().matches ? "night" : "day";
}

function apply(): void {
  document.documentElement.setAttribute("data-theme", current());
  for (const tell of listeners) tell();
}

function choose(theme: Theme): void {
  chosenHere = theme;
  keep(KEY, theme);
  apply();
}

function subscribe(tell: () => void): () => void {
  listeners.add(tell);
  return () => listeners.delete(tell);
}
