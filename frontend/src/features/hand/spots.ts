/** Pressing on the picture to set tones: what is black there, or a curve at that tone. */

import { askForToneColor } from "@/api/calls";
import type { Drag, Press, Touch } from "@/features/hand/drag";
import { isToned, type TonedLayer } from "@/model/composite";
import { heightOf, pointNear, withMovedPoint, withPoint } from "@/model/curves";
import type { Point } from "@/model/points";
import { type CurvePoints, MOST_POINTS, openTonePlace, toned, withTone } from "@/model/tones";
import { useDesk } from "@/state/desk/desk";
import { facetFor } from "@/state/desk/selection";
import { findOut } from "@/state/finding";
import { usePairing } from "@/state/pairing";
import { savedRevision } from "@/state/project";
import { type Channel, type SpotRole, useToning } from "@/state/toning";
import { openLayer } from "@/work/commands";
import type { DeskActions } from "@/work/DeskContext";
import { spotRadius } from "@/work/toning/found";
import { findLevels } from "@/work/toning/levels";
import { pressPair } from "@/work/toning/matching";

/** Pixels of the screen that lead from black to white. */
const FULL_WAY = 300;
const NEAR = 0.03;

interface Open {
  readonly layer: TonedLayer;
  readonly place: number;
}

/** Return the layer and the tone that are worked on. */
function openTone(): Open | null {
  const layer = openLayer();
  const { facet, line } = useDesk.getState();
  if (!isToned(layer) || layer.locked || facetFor(layer, facet) !== "tone") return null;
  const place = openTonePlace(layer, line);
  return place === null ? null : { layer, place };
}

/** Tell whether the next press on the picture points at a spot. */
export function spotNow(): boolean {
  const points = useToning.getState().role !== null || usePairing.getState().isOn;
  return points && openTone() !== null;
}

/** Begin what a press means for the open tone. */
export function pointing({ touch, desk }: Press): Drag | undefined {
  const open = openTone();
  if (!open) return undefined;
  const { layer, place } = open;
  const { role } = useToning.getState();
  if (role) return letGo(() => pointedAt(desk, open, touch.at, role));
  if (usePairing.getState().isOn) return letGo(() => pressPair(desk, layer, place, touch.at));
  const tone = layer.tones[place];
  return tone?.kind === "curves" && touch.altKey ? curveDrag(open, touch, desk) : undefined;
}

/** Do something where the hand lets go, wherever it went meanwhile. */
function letGo(end: () => void): Drag {
  return { move: () => undefined, end, cancel: () => undefined };
}

function pointedAt(
  desk: DeskActions,
  { layer, place }: Open,
  { x, y }: Point,
  role: SpotRole,
): void {
  useToning.getState().setRole(null);
  void findLevels(desk, layer, place, { role, x, y, radius: spotRadius() });
}

/** Move the curve at the tone of a spot: up makes it lighter, down darker. */
function curveDrag({ layer, place }: Open, start: Touch, desk: DeskActions): Drag {
  const { channel } = useToning.getState();
  const { setLive } = useDesk.getState().actions;
  let points: CurvePoints | null = null;
  let at = -1;
  let state: "held" | "ended" | "cancelled" = "held";
  let moved = 0;
  // The tone there may become known only after the hand has let go.
  const show = () => {
    const point = points?.[at];
    if (!points || !point || state === "cancelled" || desk.isLeft()) return;
    const led = withMovedPoint(points, at, [point[0], point[1] + moved / FULL_WAY]);
    const edit = toned(layer, withTone(layer, place, withChannel(layer, place, channel, led)));
    setLive(state === "ended" ? null : edit);
    if (state === "ended") desk.edit(edit);
  };
  const take = async () => {
    const revision = await savedRevision();
    const { x, y } = start.at;
    const asked = { revision, layer_id: layer.id, place, x, y, radius: spotRadius() };
    const tone = levelOf(await askForToneColor(desk.projectId, asked), channel);
    const before = curveOf(layer, place, channel);
    const near = pointNear(before, tone, NEAR);
    points = near < 0 ? withPoint(before, [tone, heightOf(before, tone)], MOST_POINTS) : before;
    at = near < 0 ? pointNear(points, tone, 0) : near;
    show();
  };
  void findOut(take);
  return {
    move: ({ onStage }) => {
      moved = start.onStage.y - onStage.y;
      show();
    },
    end: () => {
      state = "ended";
      show();
    },
    cancel: () => {
      state = "cancelled";
      setLive(null);
    },
  };
}

function curveOf(layer: TonedLayer, place: number, channel: Channel): CurvePoints {
  const tone = layer.tones[place];
  return tone?.kind === "curves" ? tone[channel] : [];
}

function withChannel(layer: TonedLayer, place: number, channel: Channel, points: CurvePoints) {
  const tone = layer.tones[place];
  if (tone?.kind !== "curves") throw new Error("There is no curve to lead.");
  return { ...tone, [channel]: points };
}

interface Color {
  readonly red: number;
  readonly green: number;
  readonly blue: number;
}

/** For all channels the luma counts (Rec. ITU-R BT.601). */
function levelOf(color: Color, channel: Channel): number {
  if (channel !== "all") return color[channel];
  return 0.299 * color.red + 0.587 * color.green + 0.114 * color.blue;
}
