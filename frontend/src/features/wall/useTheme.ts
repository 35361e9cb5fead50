/** Day or night, remembered by the browser; at first as the system has it. */

import { useCallback, useState } from "react";

export type Theme = "day" | "night";

const KEY = "glyphaneme.theme";

/** Put the theme that was chosen last onto the page. */
export function applyTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  const dark = window.matchMedia("(prefers-color-scheme: dark)").matches;
  const theme: Theme = kept === "day" || kept === "night" ? kept : dark ? "night" : "day";
  document.documentElement.setAttribute("data-theme", theme);
  return theme;
}

export function useTheme(): [Theme, (theme: Theme) => void] {
  const [theme, setTheme] = useState<Theme>(applyTheme);
  const choose = useCallback((next: Theme) => {
    localStorage.setItem(KEY, next);
    applyTheme();
    setTheme(next);
  }, []);
  return [theme, choose];
}
