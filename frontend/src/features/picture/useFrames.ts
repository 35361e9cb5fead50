/** Asks for a frame whenever what the stage shows has changed. */

import { type RefObject, useEffect, useMemo, useRef } from "react";
import { useShallow } from "zustand/react/shallow";
import type { ToneSeen } from "@/api/calls";
import { Problem, Unreachable } from "@/api/http";
import { StagePainter } from "@/features/picture/painter";
import type { Shown } from "@/features/picture/shown";
import { usePixelRatio } from "@/features/picture/usePixelRatio";
import { type Canvas, type Edit, isToned, type Layer, layerById } from "@/model/composite";
import { withEdits } from "@/model/expected";
import { hasSpreadingMasks, showsOnlyStrokes } from "@/model/masks";
import { openTonePlace } from "@/model/tones";
import { tryStrength } from "@/model/tries";
import { fitView, type StageView } from "@/model/viewing";
import { useCutting } from "@/state/cutting";
import { useDesk } from "@/state/desk/desk";
import { facetFor } from "@/state/desk/selection";
import type { Trace } from "@/state/desk/trying";
import { useJudging } from "@/state/judging";
import { useNotices } from "@/state/notices";
import { useComposite, useProject } from "@/state/project";
import { useShowing } from "@/state/showing";
import { useToning } from "@/state/toning";

const SEEN_THROUGH = 0.5;

/** Paint the project's frames onto a canvas element, with or without the open layer. */
export function useFrames(surface: RefObject<HTMLCanvasElement | null>, without = false): void {
  const painter = useRef<StagePainter | null>(null);
  const painted = useRef<Shown | null>(null);
  const view = useViewInForce();
  const shown = useShown(view, without);

  useEffect(() => {
    if (!surface.current) return;
    const made = new StagePainter(surface.current, tellTrouble);
    painter.current = made;
    return () => made.close();
  }, [surface]);

  useEffect(() => {
    if (!shown) return;
    painter.current?.show(shown, hasOtherPixels(painted.current, shown));
    painted.current = shown;
  }, [shown]);

  const catchUps = useNotices((notices) => notices.catchUps);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each catch-up asks anew
  useEffect(() => painter.current?.retry(), [catchUps]);
}

/** Return the view that is chosen, or the one that fits the sheet. */
export function useViewInForce(): StageView | null {
  const canvas = useCanvas();
  const stage = useDesk((desk) => desk.stage);
  const chosen = useDesk((desk) => desk.view);
  return useMemo(
    () => chosen ?? (canvas && stage.width > 0 ? fitView(canvas, stage) : null),
    [chosen, canvas, stage],
  );
}

/** Return the sheet, as it is being changed. */
function useCanvas(): Canvas | undefined {
  const composite = useComposite();
  const live = useDesk((desk) => desk.live);
  return live?.kind === "set_canvas" ? live.canvas : composite?.canvas;
}

/** Return all that the stage shows; null while there is nothing to show. */
function useShown(view: StageView | null, without: boolean): Shown | null {
  const projectId = useProject((project) => project.known?.id);
  const head = useProject((project) => project.known?.head);
  const canvas = useCanvas();
  const stage = useDesk((desk) => desk.stage);
  const backing = useDesk((desk) => desk.backing);
  const pixelRatio = usePixelRatio();
  const isRough = useRough().length > 0;
  const isHeld = useDesk((desk) => desk.live !== null);
  // What is rough is followed by better: a frame of it need not be fine.
  const moving = isHeld || isRough;
  const revision = useDesk((desk) => desk.lookedAt) ?? head;
  const uncut = useDesk((desk) => desk.uncut);
  const seen = useDesk((desk) => desk.maskSeen);
  const cut = useCutLayer();
  const open = cut?.id ?? null;
  const trace = useTrace();
  const unsaved = useUnsaved(without);
  const tone = useToneSeen();
  // What another tone found says nothing of this one.
  useEffect(() => {
    if (tone) useToning.getState().setCounts(null);
  }, [tone]);
  const isHatched = seen === "hatched" && !uncut && !showsOnlyStrokes(cut?.mask);
  const hatched = isHatched ? open : null;
  const printed = useJudging((judging) => judging.isPrinted);
  const maskOf = seen === "hatched" ? null : open;
  const maskSeen = seen === "hatched" ? "whole" : MASK_SEEN[seen];
  return useMemo(() => {
    if (!projectId || !revision || !canvas || !view || stage.width === 0) return null;
    const picture = { projectId, revision, unsaved, canvas, moving, trace, tone };
    return {
      ...picture,
      hatched,
      maskOf,
      maskSeen,
      printed,
      view,
      stage,
      backing,
      pixelRatio,
    };
  }, [
    projectId,
    revision,
    unsaved,
    canvas,
    view,
    stage,
    backing,
    pixelRatio,
    moving,
    hatched,
    maskOf,
    maskSeen,
    printed,
    trace,
    tone,
  ]);
}

/** What the service calls each way to see a mask alone. */
const MASK_SEEN = { mask: "whole", edge: "edge", rim: "rim" } as const;

/** What pixels depend on; a new backing alone needs none. */
const PIXELS = [
  ...(["projectId", "revision", "unsaved", "canvas"] as const),
  ...(["view", "stage", "pixelRatio", "hatched", "maskOf", "maskSeen", "printed", "tone"] as const),
];

function hasOtherPixels(before: Shown | null, shown: Shown): boolean {
  return before === null || PIXELS.some((name) => before[name] !== shown[name]);
}

/** Kinds of tones that are set over a histogram. */
const COUNTED: ReadonlySet<string> = new Set(["levels", "curves", "match"]);

/** Return which tone is worked on where it shows how often levels occur. */
function useToneSeen(): ToneSeen | null {
  const composite = useComposite();
  const layer = useDesk((desk) =>
    composite && !desk.lookedAt ? layerById(composite, desk.openLayer) : undefined,
  );
  const place = useDesk((desk) =>
    isToned(layer) && facetFor(layer, desk.facet) === "tone"
      ? openTonePlace(layer, desk.line)
      : null,
  );
  const kind = isToned(layer) && place !== null ? layer.tones[place]?.kind : undefined;
  const id = kind && COUNTED.has(kind) ? layer?.id : undefined;
  return useMemo(
    () => (id === undefined || place === null ? null : { layer_id: id, place }),
    [id, place],
  );
}

/** Return the layer whose mask is worked on: the open one, while Cut is open. */
function useCutLayer(): Layer | null {
  const composite = useComposite();
  const { openLayer, facet, lookedAt, live } = useDesk(
    useShallow(({ openLayer, facet, lookedAt, live }) => ({ openLayer, facet, lookedAt, live })),
  );
  const shown = composite && live ? withEdits(composite, [live]) : composite;
  const layer = shown ? layerById(shown, openLayer) : undefined;
  return layer?.mask && facet === "cut" && !lookedAt ? layer : null;
}

/** Return the stroke under way, where it changes nothing but what the brush goes over. */
function useTrace(): Trace | null {
  const composite = useComposite();
  const trace = useDesk((desk) => desk.trace);
  const spreads = useMemo(() => composite !== null && hasSpreadingMasks(composite), [composite]);
  return spreads ? null : trace;
}

/** Return what is found so far of backdrops, as the edits that show it. */
function useRough(): readonly Edit[] {
  return useCutting(
    useShallow(({ findings }) => Object.values(findings).flatMap(({ shown }) => shown ?? [])),
  );
}

/** Return what lies on top of the saved state, in the order in which it applies. */
function useUnsaved(without: boolean): readonly Edit[] {
  const waiting = useProject((project) => project.waiting);
  const composite = useComposite();
  const rough = useRough();
  const live = useDesk((desk) => desk.live);
  const tried = useDesk((desk) => desk.tried);
  const seeThrough = useDesk((desk) => desk.seeThrough);
  const uncut = useDesk((desk) => desk.uncut);
  const openLayer = useDesk((desk) => desk.openLayer);
  const lookedAt = useDesk((desk) => desk.lookedAt);
  return useMemo(() => {
    if (lookedAt) return [];
    const shown = [...rough, tried, live].filter((edit) => edit !== null);
    const layer = composite ? layerById(composite, openLayer) : undefined;
    return [...waiting, ...shown, ...whileHeld(layer, { seeThrough, uncut, without })];
  }, [waiting, composite, rough, live, tried, seeThrough, uncut, without, openLayer, lookedAt]);
}

interface Held {
  readonly seeThrough: boolean;
  readonly uncut: boolean;
  readonly without: boolean;
}

/** What is shown otherwise for as long as a key is held; nothing of it is ever saved. */
function whileHeld(layer: Layer | undefined, { seeThrough, uncut, without }: Held): Edit[] {
  if (layer && without) return [{ kind: "show_layer", layer_id: layer.id, visible: false }];
  if (!layer || layer.locked) return [];
  const edits: Edit[] = [];
  if (uncut && layer.mask) edits.push({ kind: "drop_mask", layer_id: layer.id });
  if (seeThrough) edits.push(tryStrength(layer, layer.opacity * SEEN_THROUGH));
  return edits;
}

/** Tell why the newest frame did not come; a lost connection is told by the outbox. */
function tellTrouble(error: unknown): void {
  if (error instanceof Unreachable) return;
  const said = error instanceof Problem ? error.message : "It is none that can be drawn.";
  useShowing.setState({ trouble: said });
}
