/** The stage: the picture, as large as there is room, and the hand that works on it. */

import { type DragEvent, type ReactElement, useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { filesOf } from "@/api/dropped";
import { layOn } from "@/features/desk/commands";
import { useDeskActions } from "@/features/desk/DeskContext";
import { draggedPicture } from "@/features/shelf/dragging";
import { useBringIn } from "@/features/shelf/useBringIn";
import { FadeGrips } from "@/features/stage/FadeGrips";
import { Fan } from "@/features/stage/Fan";
import { GradientGrips } from "@/features/stage/GradientGrips";
import { Grips } from "@/features/stage/Grips";
import { ShapeGrips } from "@/features/stage/ShapeGrips";
import { useFan } from "@/features/stage/useFan";
import { useFrames } from "@/features/stage/useFrames";
import { useStagePointer, useWheelZoom } from "@/features/stage/usePointer";
import { viewInForce } from "@/features/stage/zooming";
import { type Composite, isHeld, isPlaced, type Layer, layerById } from "@/model/composite";
import { withEdits } from "@/model/expected";
import { openFade } from "@/model/fades";
import { lyingOf, maskLying } from "@/model/lying";
import { openPart } from "@/model/masks";
import { gradientOnCanvas, onCanvas } from "@/model/nesting";
import { type StageView, stageToCanvas } from "@/model/viewing";
import { facetFor, useDesk } from "@/state/desk";
import { useComposite } from "@/state/project";
import { color, font } from "@/theme/tokens";

const Ground = styled.div`
  position: relative;
  overflow: hidden;
  min-width: 0;
  min-height: 0;
  touch-action: none;
  user-select: none;

  &[data-pans="true"] {
    cursor: grab;
  }

  &:focus-visible {
    outline-offset: -2px;
  }
`;

const Surface = styled.canvas`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
`;

const Overlay = styled.svg`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
`;

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

const Empty = styled.div`
  position: absolute;
  inset: 0;
  display: grid;
  place-content: center;
  padding: 24px;
  pointer-events: none;

  p {
    max-width: 300px;
    padding: 14px 18px;
    border: 1px solid ${color.rule};
    background: ${color.sheet};
    font-family: ${font.reading};
    font-size: 16px;
    text-align: center;
  }
`;

const FACET_WORDS = {
  wash: "its colours",
  place: "its place",
  cut: "what of it shows",
  fade: "its fade",
  blend: "how it blends",
} as const;

export function Stage(): ReactElement {
  const surface = useRef<HTMLCanvasElement>(null);
  const [ground, setGround] = useState<HTMLDivElement | null>(null);
  const surround = useDesk((desk) => desk.surround);
  const view = useFrames(surface);
  const { fan, openAt, close } = useFan();
  const { spaceHeld, ...pointer } = useStagePointer(openAt);
  const drop = useDropOnStage();
  useStageSize(ground);
  useWheelZoom(ground);
  return (
    <Ground
      ref={setGround}
      data-stage=""
      data-pans={spaceHeld}
      role="application"
      aria-label="The stage. Arrow keys move the open layer."
      tabIndex={0}
      style={{ background: `hsl(0 0% ${surround}%)` }}
      {...pointer}
      {...drop}
    >
      <Surface ref={surface} aria-hidden="true" data-testid="surface" />
      <StageOverlay view={view} />
      {fan ? <Fan fan={fan} onClose={close} /> : null}
    </Ground>
  );
}

function StageOverlay({ view }: { readonly view: StageView | null }): ReactElement {
  const composite = useComposite();
  const live = useDesk((desk) => desk.live);
  const openLayer = useDesk((desk) => desk.openLayer);
  const facet = useDesk((desk) => desk.facet);
  const lookedAt = useDesk((desk) => desk.lookedAt);
  const shown = composite && live ? withEdits(composite, [live]) : composite;
  const layer = shown ? layerById(shown, openLayer) : undefined;
  const shownFacet = layer ? facetFor(layer, facet) : facet;
  return (
    <>
      {shown && layer?.visible && view && !lookedAt ? (
        <Overlay aria-hidden="true">
          <LayerGrips composite={shown} layer={layer} view={view} />
        </Overlay>
      ) : null}
      {layer ? (
        <Corner role="status">
          Working on <strong>{layer.name}</strong>:{" "}
          {layer.locked ? "locked, it stays as it is" : FACET_WORDS[shownFacet]}
        </Corner>
      ) : null}
      {composite?.layers.length === 0 ? (
        <Empty>
          <p>Drop a photo here, paste one, or take one from the shelf below.</p>
        </Empty>
      ) : null}
    </>
  );
}

interface LayerGripsProps {
  readonly composite: Composite;
  readonly layer: Layer;
  readonly view: StageView;
}

function LayerGrips({ composite, layer, view }: LayerGripsProps): ReactElement | null {
  const stage = useDesk((desk) => desk.stage);
  const facet = useDesk((desk) => desk.facet);
  const line = useDesk((desk) => desk.line);
  const locked = isHeld(composite, layer.id);
  const shown = facetFor(layer, facet);
  if (shown === "fade") {
    const fade = openFade(layer, line);
    if (!fade) return null;
    const lying = lyingOf(composite, layer, fade.linked);
    return <FadeGrips fade={fade} lying={lying} view={view} isLocked={locked} />;
  }
  if (shown === "cut") {
    const part = openPart(layer, line);
    if (!part || !layer.mask) return null;
    const lying = maskLying(composite, layer, layer.mask);
    return <ShapeGrips part={part} lying={lying} view={view} isLocked={locked} />;
  }
  if (isPlaced(layer)) {
    return <Grips layer={{ ...onCanvas(composite, layer), locked }} view={view} stage={stage} />;
  }
  if (layer.kind !== "gradient" || shown !== "wash") return null;
  const gradient = gradientOnCanvas(composite, layer);
  return <GradientGrips gradient={gradient} view={view} isLocked={locked} />;
}

function useStageSize(ground: Element | null): void {
  useEffect(() => {
    if (!ground) return;
    const observer = new ResizeObserver(([entry]) => {
      if (!entry) return;
      const { width, height } = entry.contentRect;
      useDesk.getState().actions.setStage({ width: Math.floor(width), height: Math.floor(height) });
    });
    observer.observe(ground);
    return () => observer.disconnect();
  }, [ground]);
}

/** Files and shelf pictures dropped on the stage are laid on where they fall. */
function useDropOnStage() {
  const desk = useDeskActions();
  const bringIn = useBringIn();
  return {
    onDragOver: (event: DragEvent) => event.preventDefault(),
    onDrop: (event: DragEvent) => {
      event.preventDefault();
      event.stopPropagation();
      const at = droppedAt(event);
      const picture = draggedPicture(event.dataTransfer);
      if (picture) layOn(desk, picture, at);
      void filesOf(event.dataTransfer).then((files) =>
        bringIn(files, (brought) => layOn(desk, brought, at)),
      );
    },
  };
}

function droppedAt(event: DragEvent): [number, number] | null {
  const view = viewInForce();
  if (!view) return null;
  const box = event.currentTarget.getBoundingClientRect();
  const at = stageToCanvas(view, { x: event.clientX - box.left, y: event.clientY - box.top });
  return [at.x, at.y];
}
