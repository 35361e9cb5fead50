/** Fonts: those on offer, what one can do, and the browser's own copies of them. */

import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { fetchFontFacts, fetchFonts, fetchLacking, fontUrl } from "@/api/calls";
import type { Font, FontFacts } from "@/model/fonts";
import { useKnownFonts } from "@/state/fonts";

const NONE: readonly Font[] = [];
const LACKING_NOTHING: Readonly<Record<string, string>> = {};

export function useFonts(): readonly Font[] {
  return useQuery({ queryKey: ["fonts"], queryFn: fetchFonts, staleTime: Infinity }).data ?? NONE;
}

/** Have the fonts at hand for as long as the desk is open. */
export function useFontsAtHand(): void {
  const fonts = useFonts();
  useEffect(() => useKnownFonts.getState().know(fonts), [fonts]);
}

export function useFontFacts(id: string | undefined): FontFacts | undefined {
  return useQuery({
    queryKey: ["font", id],
    queryFn: () => fetchFontFacts(id ?? ""),
    enabled: id !== undefined,
    staleTime: Infinity,
  }).data;
}

/** Return which letters of a text each font lacks. */
export function useLacking(text: string): Readonly<Record<string, string>> {
  const { data } = useQuery({
    queryKey: ["fonts", "lacking", text],
    queryFn: () => fetchLacking(text),
    placeholderData: (before) => before,
  });
  return data ?? LACKING_NOTHING;
}

const asked = new Set<string>();

/** What a font is called among the browser's own; it is fetched when it is first named. */
export function faceName(id: string): string {
  const name = `words-${id.slice(0, 16)}`;
  if (!asked.has(id) && typeof FontFace !== "undefined") {
    asked.add(id);
    const face = new FontFace(name, `url("${fontUrl(id)}")`);
    document.fonts.add(face);
    // Without it the browser's own font stands in the field that no one sees.
    face.load().catch(() => asked.delete(id));
  }
  return name;
}
