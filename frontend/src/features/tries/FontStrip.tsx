/** Fonts by eye: these very words, over this picture, in each of them. */

import { type ReactElement, useState } from "react";
import { FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { Tries } from "@/features/tries/Tries";
import type { CanvasWindow } from "@/features/tries/useTries";
import { allLayers, type Composite, type WordsLayer } from "@/model/composite";
import { onCanvas } from "@/model/nesting";
import { frameBounds } from "@/model/snapping";
import { fontTries } from "@/model/words";
import { color } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { FindField } from "@/ui/FindField";
import { bringInFonts } from "@/work/bringInFonts";
import { useFonts, useLacking } from "@/work/useFonts";

const Finding = styled.div`
  position: sticky;
  left: 0;
  display: flex;
  width: max-content;
  align-items: baseline;
  gap: 14px;
  padding: 6px 16px 0;
  color: ${color.softInk};
  font-size: 13px;
`;

const FONT_FILES = [".ttf", ".otf", ".ttc", ".otc", ".woff2", ".woff"];

interface FontStripProps {
  readonly composite: Composite;
  readonly layer: WordsLayer;
}

export function FontStrip({ composite, layer }: FontStripProps): ReactElement {
  const fonts = useFonts();
  const lacking = useLacking(layer.words.setting.text);
  const [sought, setSought] = useState("");
  const found = fonts.filter(({ name }) => finds(sought, name));
  const groups = fontTries(layer, found, fontsIn(composite), lacking);
  return (
    <Tries
      label="Try these words in each font"
      groups={groups}
      window={windowRound(composite, layer)}
      {...(groups.length === 0 ? { note: noteOf(sought, fonts.length) } : {})}
    >
      <Finding>
        <FindField label="Find a font" width={150} value={sought} onChange={setSought} />
        <OwnFonts />
      </Finding>
    </Tries>
  );
}

function noteOf(sought: string, fonts: number): string {
  if (fonts === 0) return "Looking for fonts…";
  return `No font is called “${sought}”.`;
}

function finds(sought: string, name: string): boolean {
  return name.toLocaleLowerCase().includes(sought.trim().toLocaleLowerCase());
}

/** The fonts that words of this picture are set in. */
function fontsIn(composite: Composite): ReadonlySet<string> {
  const words = allLayers(composite.layers).filter((layer) => layer.kind === "words");
  return new Set(words.flatMap((layer) => layer.words.setting.fonts[0]?.id ?? []));
}

const ROOM = 0.08;
/** Width by height of what a tile shows: words are wide. */
const TILE_RATIO = 1.7;

/** What of the canvas shows the words, with some room. */
function windowRound(composite: Composite, layer: WordsLayer): CanvasWindow {
  const { left, top, right, bottom } = frameBounds(onCanvas(composite, layer));
  const wide = Math.max(right - left, (bottom - top) * TILE_RATIO, 1) * (1 + 2 * ROOM);
  const high = wide / TILE_RATIO;
  // Whole pixels: what moves by less asks for nothing new.
  return {
    x: Math.round((left + right - wide) / 2),
    y: Math.round((top + bottom - high) / 2),
    width: Math.max(Math.round(wide), 1),
    height: Math.max(Math.round(high), 1),
  };
}

/** Fonts of one's own, by the chooser; dropped ones come in by the stage. */
function OwnFonts(): ReactElement {
  const [isComing, setComing] = useState(false);
  const bring = async (files: FileList | null) => {
    setComing(true);
    await bringInFonts([...(files ?? [])]);
    setComing(false);
  };
  return (
    <FileTrigger
      acceptedFileTypes={FONT_FILES}
      allowsMultiple
      onSelect={(files) => void bring(files)}
    >
      <PlainButton isDisabled={isComing}>
        {isComing ? "Bringing fonts in…" : "Bring in your own…"}
      </PlainButton>
    </FileTrigger>
  );
}
