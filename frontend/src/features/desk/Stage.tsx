/** The stage: the picture, as large as there is room, and the hand that works on it. */

import { type DragEvent, type MouseEvent, type ReactElement, useEffect, useState } from "react";
import styled from "styled-components";
import { filesOf } from "@/api/dropped";
import { isFont } from "@/api/uploads";
import { Fan } from "@/features/desk/Fan";
import { useFan } from "@/features/desk/useFan";
import { WorkingOn } from "@/features/desk/WorkingOn";
import { BlankTrace } from "@/features/grips/BlankTrace";
import { ChosenGrips, RestingSpot, Ring, SnapTicks } from "@/features/grips/Helping";
import { LayerGrips } from "@/features/grips/LayerGrips";
import { MatchGlass, MatchPins } from "@/features/grips/MatchPins";
import { SheetGrips } from "@/features/grips/SheetGrips";
import { TilesMark } from "@/features/grips/TilesMark";
import { worksNow } from "@/features/hand/beginning";
import { layerUnder } from "@/features/hand/underHand";
import { useStagePointer, useWheelZoom } from "@/features/hand/usePointer";
import { StageDivider, useBlinking } from "@/features/judging/Judging";
import { TypingField } from "@/features/lettering/TypingField";
import { Picture } from "@/features/picture/Picture";
import { useViewInForce } from "@/features/picture/useFrames";
import { Without } from "@/features/picture/Without";
import { chosenOnCanvas } from "@/model/choosing";
import { type Canvas, type Layer, layerById } from "@/model/composite";
import { withEdits } from "@/model/expected";
import type { Point } from "@/model/points";
import { stageToCanvas } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";
import { useJudging } from "@/state/judging";
import { expectedComposite, useComposite } from "@/state/project";
import { useShaping } from "@/state/shaping";
import { useShowing } from "@/state/showing";
import { useTyping } from "@/state/typing";
import { color, font } from "@/theme/tokens";
import { bringInFonts } from "@/work/bringInFonts";
import { layOn, openLayer } from "@/work/commands";
import { useDeskActions } from "@/work/DeskContext";
import { draggedEntry, draggedPicture } from "@/work/dragging";
import { layWords, typeWords } from "@/work/lettering";
import { lend } from "@/work/useBringIn";
import { useBringOn } from "@/work/useBringOn";
import { viewInForce } from "@/work/zooming";

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

const Overlay = styled.svg`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;

  [data-grip] {
    pointer-events: auto;
  }
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

const TroubleNote = styled.p`
  position: absolute;
  inset: auto 16px 16px;
  width: fit-content;
  max-width: 460px;
  margin: 0 auto;
  padding: 10px 14px;
  border: 1px solid ${color.rule};
  background: ${color.sheet};
  pointer-events: none;
`;

export function Stage(): ReactElement {
  const [ground, setGround] = useState<HTMLDivElement | null>(null);
  const surround = useDesk((desk) => desk.surround);
  const open = useOpenLayer();
  const isLooking = useShaping((shaping) => shaping.blank !== null);
  const isOut = useJudging((judging) => judging.isHeldOut || judging.isBlinkedOut) || isLooking;
  const isDivided = useJudging((judging) => judging.aid === "divider") && !isLooking;
  useBlinking();
  const { fan, openAt, close } = useFan();
  const { spaceHeld, ...pointer } = useStagePointer(openAt);
  const drop = useDropOnStage();
  const typeAt = useTypeAt();
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
      onDoubleClick={typeAt}
      {...pointer}
      {...drop}
    >
      <Picture isOut={isOut} />
      {open && isDivided ? <StageDivider layer={open} Without={Without} /> : null}
      <StageOverlay />
      <MatchGlass />
      <Trouble />
      {fan ? <Fan fan={fan} onClose={close} /> : null}
    </Ground>
  );
}

/** Why the picture is not shown as it is now. */
function Trouble(): ReactElement | null {
  const trouble = useShowing((showing) => showing.trouble);
  if (trouble === null) return null;
  return (
    <TroubleNote role="status">The picture cannot be shown as it is now. {trouble}</TroubleNote>
  );
}

function useOpenLayer(): Layer | undefined {
  const composite = useComposite();
  const id = useDesk((desk) => desk.openLayer);
  return composite ? layerById(composite, id) : undefined;
}

// Each of what may lie over the stage is one condition.
// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: see above
function StageOverlay(): ReactElement {
  const view = useViewInForce();
  const composite = useComposite();
  const live = useDesk((desk) => desk.live);
  const openLayer = useDesk((desk) => desk.openLayer);
  const lookedAt = useDesk((desk) => desk.lookedAt);
  const sheetOpen = useDesk((desk) => desk.sheetOpen);
  const chosen = useDesk((desk) => desk.chosen);
  const facet = useDesk((desk) => desk.facet);
  const shown = composite && live ? withEdits(composite, [live]) : composite;
  const layer = shown ? layerById(shown, openLayer) : undefined;
  // In Cut and Fade the hand works inside the open layer alone.
  const isInside = layer !== undefined && (facet === "cut" || facet === "fade");
  const isTyped = useTyping((typing) => typing.layerId !== null && typing.layerId === openLayer);
  const isMany = !isInside && shown !== null && chosenOnCanvas(shown, chosen).length > 1;
  const grips =
    shown && layer?.visible && view && !isMany && !isTyped ? (
      <LayerGrips composite={shown} layer={layer} view={view} />
    ) : null;
  return (
    <>
      {shown && view && !lookedAt ? (
        <Overlay aria-hidden="true" data-testid="stage-overlay">
          {grips}
          {sheetOpen ? <SheetGrips canvas={shown.canvas} view={view} /> : null}
          {isMany ? <ChosenGrips composite={shown} view={view} /> : null}
          <SnapTicks view={view} />
          <TilesMark canvas={shown.canvas} view={view} />
          <MatchPins composite={shown} view={view} />
          <Ring view={view} />
          <RestingSpot view={view} />
          <BlankTrace view={view} />
        </Overlay>
      ) : null}
      {composite && view && !lookedAt ? <TypingField composite={composite} view={view} /> : null}
      {layer ? <WorkingOn layer={layer} /> : null}
      {composite?.layers.length === 0 ? (
        <Empty>
          <p>
            Drop a photo here, paste one, or take one from the shelf below. A double click begins a
            line of words.
          </p>
        </Empty>
      ) : null}
    </>
  );
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

/** A double click types the words that lie there; on the bare sheet it lays on new ones. */
function useTypeAt(): (event: MouseEvent) => void {
  const desk = useDeskActions();
  return (event) => {
    const at = placeOf(event);
    const composite = expectedComposite();
    if (!at || !composite || worksNow()) return;
    const under = layerUnder(composite, openLayer(), at, { altKey: true });
    if (under?.kind === "words") typeWords(under);
    else if (!under && isOnSheet(composite.canvas, at)) layWords(desk, at);
  };
}

function isOnSheet({ width, height }: Canvas, { x, y }: Point): boolean {
  return x >= 0 && y >= 0 && x <= width && y <= height;
}

/** Files and shelf pictures dropped on the stage are laid on where they fall. */
function useDropOnStage() {
  const desk = useDeskActions();
  const bringOn = useBringOn(desk);
  return {
    onDragOver: (event: DragEvent) => event.preventDefault(),
    onDrop: (event: DragEvent) => {
      event.preventDefault();
      event.stopPropagation();
      const place = placeOf(event);
      const at: [number, number] | null = place ? [place.x, place.y] : null;
      const picture = draggedPicture(event.dataTransfer);
      if (picture) layOn(desk, picture, { at });
      const entry = draggedEntry(event.dataTransfer);
      if (entry) lend(entry, (lent) => layOn(desk, lent, { at }));
      void filesOf(event.dataTransfer).then((files) => {
        void bringInFonts(files.filter(isFont));
        bringOn(
          files.filter((file) => !isFont(file)),
          at,
        );
      });
    },
  };
}

/** Return where on the canvas the pointer is. */
function placeOf(event: DragEvent | MouseEvent): Point | null {
  const view = viewInForce();
  if (!view) return null;
  const box = event.currentTarget.getBoundingClientRect();
  return stageToCanvas(view, { x: event.clientX - box.left, y: event.clientY - box.top });
}
