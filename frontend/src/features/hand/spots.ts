/** Pressing on the picture to set tones: what is black there, or a curve at that tone. */

import type { PointerEvent } from "react";
import { askForToneColor } from "@/api/calls";
import type { DrawDrag } from "@/features/hand/drawing";
import { isToned, type TonedLayer } from "@/model/composite";
import { heightOf, pointNear, withMovedPoint, withPoint } from "@/model/curves";
import type { Point } from "@/model/points";

import { type CurvePoints, MOST_POINTS, openTonePlace, toned, withTone } from "@/model/tones";
import { facetFor, useDesk } from "@/state/desk";
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

/** Begin what a press means for the open tone; null where it means nothing for it. */
export function spotDrag(
  start: Point,
  event: { readonly altKey: boolean; readonly clientY: number },
  desk: DeskActions,
): DrawDrag | null {
  const open = openTone();
  if (!open) return null;
  const { role } = useToning.getState();
  if (role) return pointedAt(open, start, role);
  if (usePairing.getState().isOn) return pairedAt(open, start);
  const tone = open.layer.tones[open.place];
  return tone?.kind === "curves" && event.altKey ? curveDrag(open, start, event, desk) : null;
}

function pointedAt({ layer, place }: Open, { x, y }: Point, role: SpotRole): DrawDrag {
  return {
    kind: "draw",
    move: () => undefined,
    end: (desk) => {
      useToning.getState().setRole(null);
      void findLevels(desk, layer, place, { role, x, y, radius: spotRadius() });
    },
  };
}

function pairedAt({ layer, place }: Open, at: Point): DrawDrag {
  return {
    kind: "draw",
    move: () => undefined,
    end: (desk) => pressPair(desk, layer, place, at),
  };
}

/** Move the curve at the tone of a spot: up makes it lighter, down darker. */
function curveDrag(
  { layer, place }: Open,
  { x, y }: Point,
  { clientY }: { readonly clientY: number },
  desk: DeskActions,
): DrawDrag {
  const { channel } = useToning.getState();
  let points: CurvePoints | null = null;
  let at = -1;
  let isOver = false;
  let moved = 0;
  const show = () => {
    const point = points?.[at];
    if (!points || !point) return;
    const led = withMovedPoint(points, at, [point[0], point[1] + moved / FULL_WAY]);
    const edit = toned(layer, withTone(layer, place, withChannel(layer, place, channel, led)));
    const { setLive } = useDesk.getState().actions;
    setLive(isOver ? null : edit);
    if (isOver) desk.edit(edit);
  };
  const take = async () => {
    const revision = await savedRevision();
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
    kind: "draw",
    move: (event: PointerEvent<Element>) => {
      moved = clientY - event.clientY;
      show();
    },
    end: () => {
      isOver = true;
      show();
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
