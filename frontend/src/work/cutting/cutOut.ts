/** Taking a backdrop away: from the press, by a rough answer, to the edit. */

import { HINTS } from "@generated/limits";
import { v4 as newId } from "uuid";
import { Problem, Unreachable } from "@/api/http";
import { isLocked, type Layer, layerById } from "@/model/composite";
import { hasColours } from "@/model/drawing";
import {
  BY_ITSELF,
  type CutRequest,
  cutOutEdit,
  type FoundMatte,
  type MattePart,
  matteOf,
  NO_HINTS,
  openMatte,
  ownMatte,
  type RoughStroke,
  roughLine,
  withStroke,
} from "@/model/mattes";
import { useCutting } from "@/state/cutting";
import { useDesk } from "@/state/desk/desk";
import { useMessages } from "@/state/messages";
import { expectedComposite } from "@/state/project";
import { openLayer } from "@/work/commands";
import { findMatte } from "@/work/cutting/findMatte";
import type { DeskActions } from "@/work/DeskContext";

/** Open Cut, and take the backdrop of a photo away by itself, unless that was done. */
export function takeBackdropAway(desk: DeskActions, layer: Layer): void {
  if (!hasColours(layer)) return;
  useDesk.getState().actions.open(layer.id, "cut");
  const part = ownMatte(layer);
  if (part) useDesk.getState().actions.openLine(part.id);
  else cutOut(desk, layer, BY_ITSELF, null);
}

/** Have a backdrop found, and make it an edit; `before` is the part that it changes. */
export function cutOut(
  desk: DeskActions,
  layer: Layer,
  request: CutRequest,
  before: MattePart | null,
): void {
  const composite = expectedComposite();
  if (!composite || !hasColours(layer) || isLocked(composite, layer.id)) return;
  const { findings, setFinding } = useCutting.getState();
  findings[layer.id]?.stop();
  const stopping = new AbortController();
  const stop = () => {
    stopping.abort();
    if (useCutting.getState().findings[layer.id]?.stop === stop) setFinding(layer.id, null);
  };
  const tell = (changes: { progress?: number; shown?: ReturnType<typeof cutOutEdit> }) => {
    const now = useCutting.getState().findings[layer.id];
    if (now?.stop === stop) setFinding(layer.id, { ...now, ...changes });
  };
  const id = before?.id ?? newId();
  const made = (found: FoundMatte) => {
    const there = layerById(expectedComposite() ?? composite, layer.id);
    if (!there || !hasColours(there)) return null;
    const part = matteOf(expectedComposite() ?? composite, there, found, request, before);
    return cutOutEdit(there, { ...part, id });
  };
  setFinding(layer.id, { progress: 0, shown: null, hints: request.hints, stop });
  findMatte({ picture: layer.picture, request }, stopping.signal, {
    onProgress: (progress) => tell({ progress }),
    onRough: (found) => {
      const shown = made(found);
      if (shown) tell({ shown });
    },
  }).then(
    (found) => {
      const edit = found && !stopping.signal.aborted ? made(found) : null;
      if (edit) {
        desk.edit(edit);
        const { openLayer: open, actions } = useDesk.getState();
        if (open === layer.id) actions.openLine(id);
      }
      stop();
    },
    (error: Error) => {
      if (!stopping.signal.aborted) tellTrouble(error);
      stop();
    },
  );
}

function tellTrouble(error: Error): void {
  // What the service refuses, a hand cannot help with.
  if (error instanceof Problem || error instanceof Unreachable) {
    useMessages.getState().warn(error.message);
    return;
  }
  const rough = () => useDesk.getState().actions.openLine(roughLine(newId()));
  useMessages.getState().say(error.message, { label: "Paint roughly", run: rough });
}

/** Find the open backdrop anew with one more rough stroke, or begin with it. */
export function addRoughStroke(desk: DeskActions, stroke: RoughStroke): void {
  changeHints(desk, (hints) => withStroke(hints, stroke, HINTS.strokes.maxItems));
}

/** Find the open backdrop anew inside a ring, or everywhere again with null. */
export function lookInside(desk: DeskActions, around: [number, number][] | null): void {
  changeHints(desk, (hints) => ({ ...hints, around, subject: null }));
}

/** Find the open backdrop anew without the last rough stroke. */
export function takeStrokeBack(desk: DeskActions): void {
  changeHints(desk, (hints) => ({ ...hints, strokes: hints.strokes.slice(0, -1) }));
}

function changeHints(
  desk: DeskActions,
  change: (hints: MattePart["hints"]) => MattePart["hints"],
): void {
  const layer = openLayer();
  const { line } = useDesk.getState();
  if (!layer) return;
  const part = openMatte(layer, line);
  const finding = useCutting.getState().findings[layer.id];
  // What is being found counts already: the next stroke comes on top of it.
  const said = finding?.hints ?? part?.hints ?? NO_HINTS;
  const { way = "itself", network = null } = part ?? {};
  cutOut(desk, layer, { way, hints: change(said), network }, part);
}

/** Find the open backdrop anew in another way. */
export function findOtherwise(
  desk: DeskActions,
  layer: Layer,
  part: MattePart,
  way: MattePart["way"],
): void {
  cutOut(desk, layer, { way, hints: part.hints, network: part.network }, part);
}
