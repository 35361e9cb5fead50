/** What the open facet puts on the stage: grips, bars, or the brush, never two of them. */

import type { ReactElement } from "react";
import { BrushRing, StrokeTrace } from "@/features/grips/BrushRing";
import { FadeGrips } from "@/features/grips/FadeGrips";
import { GradientGrips } from "@/features/grips/GradientGrips";
import { Grips } from "@/features/grips/Grips";
import { MendMarks } from "@/features/grips/MendMarks";
import { OutlineDrawn, OutlineGrips, Spots } from "@/features/grips/OutlineGrips";
import { PairPins } from "@/features/grips/PairPins";
import { RoughMarks } from "@/features/grips/RoughMarks";
import { ShadowGrips } from "@/features/grips/ShadowGrips";
import { ShapeGrips } from "@/features/grips/ShapeGrips";
import { ShapingGrips } from "@/features/grips/ShapingGrips";
import { WordsKnobs } from "@/features/grips/WordsKnobs";
import {
  type Composite,
  isFlat,
  isLocked,
  isMended,
  isPlaced,
  type Layer,
} from "@/model/composite";
import { drawnKind, type EvenPart, hasColours, isOwnColour } from "@/model/drawing";
import { openEffectPlace } from "@/model/effects";
import { openFade } from "@/model/fades";
import { toCanvas } from "@/model/geometry";
import { lyingOf, maskLying } from "@/model/lying";
import { openPart } from "@/model/masks";
import { isRough, openMatte } from "@/model/mattes";
import { isMending } from "@/model/mends";
import { gradientOnCanvas, onCanvas } from "@/model/nesting";
import type { Point } from "@/model/points";
import { shapingLine } from "@/model/shaping";
import { brushPart } from "@/model/strokes";
import type { StageView } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";
import { type Facet, facetFor } from "@/state/desk/selection";

interface LayerGripsProps {
  readonly composite: Composite;
  readonly layer: Layer;
  readonly view: StageView;
}

type FacetGrips = (props: LayerGripsProps) => ReactElement | null;

export function LayerGrips(props: LayerGripsProps): ReactElement | null {
  const Shown = GRIPS[useDesk((desk) => facetFor(props.layer, desk.facet))];
  return <Shown {...props} />;
}

function PlaceGrips({ composite, layer, view }: LayerGripsProps): ReactElement | null {
  const stage = useDesk((desk) => desk.stage);
  const line = useDesk((desk) => (facetFor(layer, desk.facet) === "place" ? desk.line : null));
  if (!isPlaced(layer)) return null;
  const locked = isLocked(composite, layer.id);
  const shaping = shapingLine(line);
  if (shaping && isFlat(layer) && !locked) {
    return <ShapingGrips layer={onCanvas(composite, layer)} line={shaping} view={view} />;
  }
  return <Grips layer={{ ...onCanvas(composite, layer), locked }} view={view} stage={stage} />;
}

function LetteringGrips(props: LayerGripsProps): ReactElement {
  const { composite, layer, view } = props;
  const isHeld = layer.kind === "words" && !isLocked(composite, layer.id);
  return (
    <>
      <PlaceGrips {...props} />
      {isHeld ? <WordsKnobs layer={onCanvas(composite, layer)} view={view} /> : null}
    </>
  );
}

function WashGrips({ composite, layer, view }: LayerGripsProps): ReactElement | null {
  if (layer.kind !== "gradient") return null;
  const gradient = gradientOnCanvas(composite, layer);
  return <GradientGrips gradient={gradient} view={view} isLocked={isLocked(composite, layer.id)} />;
}

function FadeLayerGrips({ composite, layer, view }: LayerGripsProps): ReactElement | null {
  const fade = openFade(
    layer,
    useDesk((desk) => desk.line),
  );
  if (!fade) return null;
  const lying = lyingOf(composite, layer, fade.linked);
  return (
    <FadeGrips fade={fade} lying={lying} view={view} isLocked={isLocked(composite, layer.id)} />
  );
}

function ShadowLayerGrips({ composite, layer, view }: LayerGripsProps): ReactElement | null {
  const place = useDesk((desk) => openEffectPlace(layer, desk.line));
  const effect = place === null ? undefined : layer.effects[place];
  if (!effect || isLocked(composite, layer.id)) return null;
  const lying = lyingOf(composite, layer, false);
  return <ShadowGrips layer={layer} effect={effect} lying={lying} view={view} />;
}

function PairGrips({ view }: LayerGripsProps): ReactElement {
  return <PairPins view={view} />;
}

function CutGrips(props: LayerGripsProps): ReactElement | null {
  const { composite, layer } = props;
  const line = useDesk((desk) => desk.line);
  const Held = brushGrips(layer, line);
  if (Held) return isLocked(composite, layer.id) ? null : <Held {...props} />;
  const drawn = drawnKind(line);
  if (!drawn) return <PartGrips {...props} />;
  return drawn === "outline" ? <OutlineDrawn view={props.view} /> : null;
}

/** Return what is seen of a brush, if one is in the hand. */
function brushGrips(layer: Layer, line: string | null): FacetGrips | null {
  if (brushPart(layer, line)) return PaintGrips;
  if (isRough(layer, line)) return RoughGrips;
  return isMending(layer, line) ? MendGrips : null;
}

function PaintGrips(props: LayerGripsProps): ReactElement {
  return (
    <>
      <StrokeTrace {...props} />
      <BrushRing view={props.view} />
    </>
  );
}

function RoughGrips({ composite, layer, view }: LayerGripsProps): ReactElement | null {
  const part = useDesk((desk) => (hasColours(layer) ? openMatte(layer, desk.line) : null));
  if (!hasColours(layer)) return null;
  return <RoughMarks composite={composite} layer={layer} part={part} view={view} />;
}

function MendGrips({ composite, layer, view }: LayerGripsProps): ReactElement | null {
  return isMended(layer) ? <MendMarks composite={composite} layer={layer} view={view} /> : null;
}

function PartGrips({ composite, layer, view }: LayerGripsProps): ReactElement | null {
  const line = useDesk((desk) => desk.line);
  const part = openPart(layer, line);
  if (!part || !layer.mask || (line !== null && part.id !== line)) return null;
  const lying = maskLying(composite, layer, layer.mask);
  const grips = { lying, view, isLocked: isLocked(composite, layer.id) };
  switch (part.kind) {
    case "ellipse":
    case "rectangle":
      return <ShapeGrips part={part} {...grips} />;
    case "outline":
      return <OutlineGrips part={part} {...grips} />;
    case "even":
      return <Spots spots={spotsOnCanvas(composite, layer, part)} view={view} />;
    default:
      return null;
  }
}

/** Return where the spots of an even colour lie; of another layer's photo none are shown. */
function spotsOnCanvas(composite: Composite, layer: Layer, part: EvenPart): Point[] {
  if (!hasColours(layer) || !isOwnColour(layer, part)) return [];
  const lifted = onCanvas(composite, layer);
  return part.spots.map(([x, y]) => toCanvas(lifted, { x, y }));
}

const GRIPS: Readonly<Record<Facet, FacetGrips>> = {
  lettering: LetteringGrips,
  wash: WashGrips,
  place: PlaceGrips,
  cut: CutGrips,
  fade: FadeLayerGrips,
  blend: PlaceGrips,
  tone: PairGrips,
  shadow: ShadowLayerGrips,
};
