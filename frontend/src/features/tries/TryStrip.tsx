/** The try strip: this very picture, rendered with each alternative. */

import { useQuery } from "@tanstack/react-query";
import type { ReactElement } from "react";
import { fetchModes } from "@/api/calls";
import { FontStrip } from "@/features/tries/FontStrip";
import { Tries } from "@/features/tries/Tries";
import { useCutTries } from "@/features/tries/useCutTries";
import { useMatches } from "@/features/tries/useMatches";
import {
  type ColorLayer,
  type Composite,
  isLocked,
  isToned,
  type Layer,
  layerById,
  type PhotoLayer,
  sheetOf,
  type TonedLayer,
} from "@/model/composite";
import { drawnKind, hasColours } from "@/model/drawing";
import { effectTries } from "@/model/effects";
import { fadeTries, openFadePlace } from "@/model/fades";
import { matchTries } from "@/model/matches";
import { type MattePart, openMatte } from "@/model/mattes";
import { isMending } from "@/model/mends";
import { brushPart } from "@/model/strokes";
import { openTonePlace } from "@/model/tones";
import { toneTries } from "@/model/toneTries";
import { colorTries, gradientTries, tryMode } from "@/model/tries";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { type Facet, facetFor } from "@/state/desk/selection";
import { useComposite } from "@/state/project";
import { useOfferedColors } from "@/work/useOfferedColors";

/** Show the strip while something of the open layer is chosen by eye. */
export function TryStrip(): ReactElement | null {
  const composite = useComposite();
  const facet = useDesk((desk) => desk.facet);
  const openLayer = useDesk((desk) => desk.openLayer);
  const line = useDesk((desk) => desk.line);
  const lookedAt = useDesk((desk) => desk.lookedAt);
  const layer = composite ? layerById(composite, openLayer) : undefined;
  if (!composite || !layer || isLocked(composite, layer.id) || lookedAt) return null;
  const Shown = STRIPS[facetFor(layer, facet)];
  return Shown ? <Shown composite={composite} layer={layer} line={line} /> : null;
}

interface StripProps {
  readonly composite: Composite;
  readonly layer: Layer;
  readonly line: string | null;
}

function FadeStrip({ composite, layer, line }: StripProps): ReactElement {
  const groups = fadeTries(layer, sheetOf(composite, layer.id), openFadePlace(layer, line));
  return <Tries label="Try each fade on this picture" groups={groups} />;
}

function WordsStrip({ composite, layer }: StripProps): ReactElement | null {
  return layer.kind === "words" ? <FontStrip composite={composite} layer={layer} /> : null;
}

function WashStrip({ composite, layer }: StripProps): ReactElement | null {
  if (layer.kind === "color") return <ColorStrip layer={layer} />;
  if (layer.kind !== "gradient") return null;
  const groups = gradientTries(layer, composite.canvas);
  return <Tries label="Try each way to run on this picture" groups={groups} />;
}

function ModeStrip({ layer }: StripProps): ReactElement | null {
  const modes = useQuery({ queryKey: ["modes"], queryFn: fetchModes, staleTime: Infinity });
  if (!modes.data) return null;
  const groups = modes.data.map((group) => ({
    title: group.title,
    tries: group.modes.map(({ mode, title }) => ({
      title,
      edit: tryMode(layer, mode),
      isChosen: layer.blend === mode,
    })),
  }));
  return <Tries label="Try each blend mode on this picture" groups={groups} />;
}

function ToneStrip({ composite, layer, line }: StripProps): ReactElement | null {
  const place = isToned(layer) ? openTonePlace(layer, line) : null;
  if (!isToned(layer)) return null;
  if (place !== null && layer.tones[place]?.kind === "match") {
    return <MatchStrip composite={composite} layer={layer} place={place} />;
  }
  return (
    <Tries
      label="Try tones on this picture"
      groups={toneTries(layer, sheetOf(composite, layer.id))}
    />
  );
}

interface MatchStripProps {
  readonly composite: Composite;
  readonly layer: TonedLayer;
  readonly place: number;
}

function MatchStrip({ composite, layer, place }: MatchStripProps): ReactElement {
  const offers = useMatches(composite, layer, place);
  return (
    <Tries
      label="Try each way to match it"
      groups={matchTries(layer, place, offers ?? [])}
      note={offers ? "" : "Looking for matches…"}
    />
  );
}

function ShadowStrip({ composite, layer }: StripProps): ReactElement {
  return (
    <Tries
      label="Try shadows and outlines on this picture"
      groups={effectTries(layer, sheetOf(composite, layer.id))}
    />
  );
}

function ColorStrip({ layer }: { readonly layer: ColorLayer }): ReactElement {
  const groups = colorTries(layer, useOfferedColors(layer));
  return <Tries label="Try colours on this picture" groups={groups} />;
}

function CutStrip({ composite, layer, line }: StripProps): ReactElement | null {
  const isElsewhere =
    drawnKind(line) !== null || brushPart(layer, line) !== null || isMending(layer, line);
  if (!hasColours(layer) || isElsewhere) return null;
  const part = openMatte(layer, line);
  const isOther = (layer.mask?.parts.length ?? 0) > 0 && !part;
  return isOther ? null : <FoundTries composite={composite} layer={layer} part={part} />;
}

interface FoundTriesProps {
  readonly composite: Composite;
  readonly layer: PhotoLayer;
  readonly part: MattePart | null;
}

function FoundTries({ composite, layer, part }: FoundTriesProps): ReactElement {
  const { groups, waiting } = useCutTries(composite, layer, part);
  const isFirst = groups.every((group) => group.tries.length === 0);
  const ways = sayCount(waiting, isFirst ? "way" : "more way");
  const note = waiting > 0 ? `${ways} being found…` : "";
  return <Tries label="Try each way to take the background away" groups={groups} note={note} />;
}

const STRIPS: Partial<Record<Facet, (props: StripProps) => ReactElement | null>> = {
  lettering: WordsStrip,
  blend: ModeStrip,
  fade: FadeStrip,
  cut: CutStrip,
  wash: WashStrip,
  tone: ToneStrip,
  shadow: ShadowStrip,
};
