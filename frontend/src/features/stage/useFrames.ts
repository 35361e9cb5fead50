/** Asks for a frame whenever what the stage shows has changed. */

import { type RefObject, useEffect, useMemo, useRef } from "react";
import { useShallow } from "zustand/react/shallow";
import { Problem } from "@/api/http";
import { StagePainter } from "@/features/stage/painter";
import { type Edit, type Layer, layerById } from "@/model/composite";
import { withEdits } from "@/model/expected";
import { tryStrength } from "@/model/tries";
import { fitView, type StageView } from "@/model/viewing";
import { useDesk } from "@/state/desk";
import { useMessages } from "@/state/messages";
import { useComposite, useProject } from "@/state/project";

const SEEN_THROUGH = 0.5;

/** Paint the project's frames onto a canvas element; returns the view in force. */
export function useFrames(surface: RefObject<HTMLCanvasElement | null>): StageView | null {
  const painter = useRef<StagePainter | null>(null);
  const known = useProject((project) => project.known);
  const composite = useComposite();
  const stage = useDesk((desk) => desk.stage);
  const chosen = useDesk((desk) => desk.view);
  const backing = useDesk((desk) => desk.backing);
  const live = useDesk((desk) => desk.live);
  const lookedAt = useDesk((desk) => desk.lookedAt);
  const unsaved = useUnsaved();
  const hatched = useHatched();
  const maskAlone = useDesk((desk) => desk.maskAlone);
  const uncut = useDesk((desk) => desk.uncut);
  const canvas = live?.kind === "set_canvas" ? live.canvas : composite?.canvas;
  const view = useMemo(
    () => chosen ?? (canvas && stage.width > 0 ? fitView(canvas, stage) : null),
    [chosen, canvas, stage],
  );

  useEffect(() => {
    if (!surface.current) return;
    const made = new StagePainter(surface.current, tellTrouble);
    painter.current = made;
    return () => made.close();
  }, [surface]);

  const projectId = known?.id;
  const revision = lookedAt ?? known?.head;
  // What pixels depend on; a new backing alone needs none.
  const pixels = useMemo(
    () => ({ projectId, revision, unsaved, canvas, view, stage, hatched, maskAlone }),
    [projectId, revision, unsaved, canvas, view, stage, hatched, maskAlone],
  );
  const painted = useRef<object | null>(null);
  useEffect(() => {
    if (!projectId || !revision || !canvas || !view || stage.width === 0) return;
    painter.current?.show(
      {
        projectId,
        revision,
        unsaved,
        canvas,
        view,
        stage,
        pixelRatio: window.devicePixelRatio,
        backing,
        moving: live !== null,
        hatched: maskAlone || uncut ? null : hatched,
        maskOf: maskAlone ? hatched : null,
      },
      painted.current !== pixels,
    );
    painted.current = pixels;
  }, [
    projectId,
    revision,
    unsaved,
    canvas,
    view,
    stage,
    backing,
    live,
    pixels,
    hatched,
    maskAlone,
    uncut,
  ]);

  return view;
}

/** Return the layer whose hidden parts are hatched: the open one, while Cut is open. */
function useHatched(): string | null {
  const composite = useComposite();
  const { openLayer, facet, lookedAt, live } = useDesk(
    useShallow(({ openLayer, facet, lookedAt, live }) => ({ openLayer, facet, lookedAt, live })),
  );
  const shown = composite && live ? withEdits(composite, [live]) : composite;
  const layer = shown ? layerById(shown, openLayer) : undefined;
  return layer?.mask && facet === "cut" && !lookedAt ? layer.id : null;
}

/** Return what lies on top of the saved state, in the order in which it applies. */
function useUnsaved(): readonly Edit[] {
  const waiting = useProject((project) => project.waiting);
  const composite = useComposite();
  const live = useDesk((desk) => desk.live);
  const tried = useDesk((desk) => desk.tried);
  const seeThrough = useDesk((desk) => desk.seeThrough);
  const uncut = useDesk((desk) => desk.uncut);
  const openLayer = useDesk((desk) => desk.openLayer);
  const lookedAt = useDesk((desk) => desk.lookedAt);
  return useMemo(() => {
    if (lookedAt) return [];
    const shown = [tried, live].filter((edit) => edit !== null);
    const layer = composite ? layerById(composite, openLayer) : undefined;
    return [...waiting, ...shown, ...whileHeld(layer, { seeThrough, uncut })];
  }, [waiting, composite, live, tried, seeThrough, uncut, openLayer, lookedAt]);
}

/** What is shown otherwise for as long as a key is held; nothing of it is ever saved. */
function whileHeld(
  layer: Layer | undefined,
  { seeThrough, uncut }: { readonly seeThrough: boolean; readonly uncut: boolean },
): Edit[] {
  if (!layer || layer.locked) return [];
  const edits: Edit[] = [];
  if (uncut && layer.mask) edits.push({ kind: "drop_mask", layer_id: layer.id });
  if (seeThrough) edits.push(tryStrength(layer, layer.opacity * SEEN_THROUGH));
  return edits;
}

function tellTrouble(error: unknown): void {
  // A lost connection is told by the outbox; a state that has just been replaced
  // brings its own next frame.
  if (error instanceof Problem && error.status >= 500) {
    useMessages.getState().warn(error.message);
  }
}
