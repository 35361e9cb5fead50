/** Walking along an edge: from one doubtful place to the next, the largest first. */

import { fetchDoubts } from "@/api/calls";
import type { DoubtfulPlace } from "@/api/types";
import { layerById } from "@/model/composite";
import { hasColours } from "@/model/drawing";
import { maskLying } from "@/model/lying";
import { EMPTY_MASK } from "@/model/masks";
import { type MattePart, openMatte, ownMatte } from "@/model/mattes";
import type { StageView } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";
import { useMessages } from "@/state/messages";
import { expectedComposite } from "@/state/project";
import { openLayer } from "@/work/commands";
import { viewInForce } from "@/work/zooming";

/** How much of the stage a doubtful place takes. */
const SHARE = 0.3;
const LARGEST_SCALE = 4;

const walked = { matte: "", at: -1 };

/** Go to the next doubtful place of the open backdrop, or with -1 to the one before. */
export function walkDoubts(by: 1 | -1): void {
  const layer = openLayer();
  const { line, actions } = useDesk.getState();
  const part = layer && (openMatte(layer, line) ?? ownMatte(layer));
  if (!layer || !hasColours(layer) || !part) return;
  doubtsOf(part).then((places) => {
    const views = places.flatMap((place) => viewOf(layer.id, part, place) ?? []);
    if (views.length === 0) {
      useMessages.getState().say("Nothing of its edge is in doubt.");
      return;
    }
    const isSame = walked.matte === part.matte;
    const from = isSame ? walked.at : by > 0 ? -1 : 0;
    const at = (from + by + views.length) % views.length;
    walked.matte = part.matte;
    walked.at = at;
    actions.setView(views[at] ?? null);
    useMessages.getState().say(`Doubtful place ${at + 1} of ${views.length}.`);
  }, tellTrouble);
}

function tellTrouble(error: Error): void {
  useMessages.getState().warn(error.message);
}

const known = new Map<string, Promise<readonly DoubtfulPlace[]>>();
const MOST_KNOWN = 20;

function doubtsOf({ matte, level }: MattePart): Promise<readonly DoubtfulPlace[]> {
  const found = known.get(matte);
  if (found) return found;
  const asked = fetchDoubts(matte, level);
  asked.catch(() => known.delete(matte));
  known.set(matte, asked);
  const [oldest] = known.keys();
  if (known.size > MOST_KNOWN && oldest) known.delete(oldest);
  return asked;
}

/**
 * Return a view with a place of the photo in its middle, close enough to judge it; null
 * for one that lies beyond the sheet, where nobody sees it.
 */
function viewOf(layerId: string, part: MattePart, place: DoubtfulPlace): StageView | null {
  const composite = expectedComposite();
  const layer = composite ? layerById(composite, layerId) : undefined;
  const before = viewInForce();
  if (!composite || !layer || !before) return null;
  const lying = maskLying(composite, layer, layer.mask ?? EMPTY_MASK);
  const [a, b, c, d, e, f] = part.to_picture;
  const area = a * e - b * d || 1e-9;
  const own = (x: number, y: number) =>
    lying.toCanvas({
      x: (e * (x - c) - b * (y - f)) / area,
      y: (a * (y - f) - d * (x - c)) / area,
    });
  const middle = own(place.x, place.y);
  const { width, height } = composite.canvas;
  if (middle.x < 0 || middle.y < 0 || middle.x > width || middle.y > height) return null;
  const edge = own(place.x + place.reach, place.y);
  const reach = Math.max(Math.hypot(edge.x - middle.x, edge.y - middle.y), 1e-6);
  const { stage } = useDesk.getState();
  const wanted = (SHARE * Math.min(stage.width, stage.height)) / (2 * reach);
  const scale = Math.min(wanted, LARGEST_SCALE);
  return {
    ...before,
    scale,
    x: middle.x - stage.width / 2 / scale,
    y: middle.y - stage.height / 2 / scale,
  };
}
