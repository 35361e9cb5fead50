/** The stage's corner: what the hand works on now. */

import type { ReactElement } from "react";
import styled from "styled-components";
import type { Layer } from "@/model/composite";
import { drawnKind } from "@/model/drawing";
import { isRough } from "@/model/mattes";
import { isMending } from "@/model/mends";
import { shapingLine } from "@/model/shaping";
import { brushPart } from "@/model/strokes";
import { useBrush } from "@/state/brush";
import { useCutting } from "@/state/cutting";
import { useDesk } from "@/state/desk/desk";
import { type Facet, facetFor } from "@/state/desk/selection";
import { useKeyName } from "@/state/ownKeys";
import { usePairing } from "@/state/pairing";
import { useToning } from "@/state/toning";
import { useTyping } from "@/state/typing";
import { color, font } from "@/theme/tokens";

const Corner = styled.p`
  position: absolute;
  top: 12px;
  left: 14px;
  width: max-content;
  max-width: calc(100% - 28px);
  padding: 6px 10px;
  background: ${color.stageNote};
  color: ${color.stageNoteInk};
  font-family: ${font.reading};
  font-size: 14px;
  pointer-events: none;
`;

const Hint = styled.span`
  opacity: 0.8;
`;

const FACET_WORDS = {
  lettering: "its words",
  wash: "its colours",
  place: "its place",
  cut: "what of it shows",
  fade: "its fade",
  blend: "how it blends",
  tone: "its tones",
  shadow: "its shadow",
} as const;

const DRAWING_WORDS = {
  ellipse: "Press and drag to draw the circle; Shift makes it a true one",
  rectangle: "Press and drag to draw the rectangle; Shift makes it a square",
  outline:
    "Click from corner to corner, or drag a free line; the first corner, or Enter, closes it",
  even: "Click a colour; drag to the right for more of it, to the left for less",
} as const;

const SHAPING_WORDS = {
  crop: "Pull the frame by a side or corner; drag the photo inside it",
  corners: "Pull each corner to where it belongs",
  bend: "Drag the points of the grid",
} as const;

export function WorkingOn({ layer }: { readonly layer: Layer }): ReactElement {
  const facet = useDesk((desk) => facetFor(layer, desk.facet));
  const mends = useDesk((desk) => facet === "cut" && isMending(layer, desk.line));
  const what = mends ? "what is mended" : FACET_WORDS[facet];
  return (
    <Corner role="status">
      Working on <strong>{layer.name}</strong>: {layer.locked ? "locked, it stays as it is" : what}
      {layer.locked ? null : <HandWords layer={layer} facet={facet} />}
    </Corner>
  );
}

interface HandWordsProps {
  readonly layer: Layer;
  readonly facet: Facet;
}

/** What a press on the picture does. */
function HandWords({ layer, facet }: HandWordsProps): ReactElement | null {
  const shaping = useDesk((desk) => shapingLine(desk.line));
  const role = useToning((toning) => toning.role);
  const pairs = usePairing((pairing) => pairing.isOn);
  const types = useTyping((typing) => typing.layerId === layer.id);
  if (types) return <>. Type; Escape when it is said</>;
  if (facet === "cut") return <CuttingWords layer={layer} />;
  if (facet === "place" && shaping) return <>. {SHAPING_WORDS[shaping]}</>;
  if (facet === "tone" && pairs) return <PairWords />;
  return facet === "tone" && role ? <>. Press on something that is {role}</> : null;
}

function CuttingWords({ layer }: { readonly layer: Layer }): ReactElement | null {
  const paints = useDesk((desk) => brushPart(layer, desk.line) !== null);
  const drawn = useDesk((desk) => drawnKind(desk.line));
  const rough = useDesk((desk) => isRough(layer, desk.line));
  const mends = useDesk((desk) => isMending(layer, desk.line));
  if (paints) return <BrushWords />;
  if (rough) return <RoughWords />;
  if (mends) return <>. Click a speck, or go over a scratch</>;
  return drawn ? <>. {DRAWING_WORDS[drawn]}</> : null;
}

/** Which spot of a pair comes next. */
function PairWords(): ReactElement {
  const first = usePairing((pairing) => pairing.first);
  return first ? <>. Press on what it should look like</> : <>. Press on something of it</>;
}

/** What the brush does, near where the eye is while painting. */
function BrushWords(): ReactElement {
  const { size, softness, strength, shows } = useBrush();
  return (
    <>
      . {shows ? "Showing" : "Hiding"} with a {kindOf(softness)} brush of {size} px at{" "}
      {Math.round(strength * 100)} %. <Swapping to={shows ? "hides" : "shows"} />
    </>
  );
}

/** Which key makes the brush do the other of the two. */
function Swapping({ to }: { readonly to: string }): ReactElement | null {
  const key = useKeyName("swap");
  return key === null ? null : (
    <Hint>
      {key} {to} instead
    </Hint>
  );
}

/** What a rough press says. */
function RoughWords(): ReactElement {
  const { does, size } = useCutting();
  if (does === "ring") return <>. Draw a loose ring round the subject</>;
  if (does === "frame") return <>. Drag a frame round the subject</>;
  const keeps = does === "keep";
  return (
    <>
      . {keeps ? "Keeping" : "Dropping"} what is roughly painted over, {size} px wide.{" "}
      <Swapping to={keeps ? "drops" : "keeps"} />
    </>
  );
}

function kindOf(softness: number): string {
  if (softness > 0.5) return "soft";
  return softness > 0 ? "fairly soft" : "hard";
}
