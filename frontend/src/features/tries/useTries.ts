/** Fetches small renders of alternatives, all in one picture. */

import { TRIES_REQUEST } from "@generated/limits";
import { useEffect, useRef, useState } from "react";
import { requestTries } from "@/api/calls";
import { closeFrame, decodeFrames, type Frame, NewestOnly } from "@/api/frames";
import type { Edit } from "@/model/composite";
import type { Size } from "@/model/points";
import type { Bounds } from "@/model/snapping";
import { useDesk } from "@/state/desk/desk";
import { useComposite, useProject } from "@/state/project";
import { useSettings } from "@/state/settings";
import { useDeskActions } from "@/work/DeskContext";

/** As the service tells it of a sheet of tiles: sizes in its pixels and in the canvas's. */
interface Told {
  readonly height: number;
  readonly x: number;
  readonly y: number;
  readonly wide: number;
  readonly high: number;
  readonly alike: readonly number[];
}

export interface TriesPicture {
  readonly frame: Frame;
  readonly tileHeight: number;
  /** What of the canvas each tile shows. */
  readonly shows: Bounds;
  /** Places of tiles that show the picture as it is without them. */
  readonly alike: ReadonlySet<number>;
}

interface Asked {
  readonly revision: string;
  readonly unsaved: readonly Edit[];
  readonly alternatives: readonly Edit[];
  readonly width: number;
}

const NONE = "[]";
/** How high a tile is until somebody drags it, and how wide at most beside that. */
const USUAL_HEIGHT = 104;
const WIDEST = 116 / 104;

/** How large tiles are, in CSS pixels, whatever comes to be shown in them. */
export interface TileSize extends Size {
  /** As a person dragged it: what tiles of this picture may be lower than. */
  readonly tallest: number;
}

export function useTileSize(): TileSize {
  const tallest = useSettings((settings) => settings.tileHeight) ?? USUAL_HEIGHT;
  const { width = 1, height = 1 } = useComposite()?.canvas ?? {};
  const wide = Math.max(24, Math.round(Math.min(tallest * WIDEST, (tallest * width) / height)));
  return { width: wide, height: Math.max(1, Math.round((wide * height) / width)), tallest };
}

/** Return the renders of all alternatives, so wide on the page, or null at first. */
export function useTries(alternatives: readonly Edit[], width: number): TriesPicture | null {
  const { projectId } = useDeskActions();
  const revision = useProject((project) => project.known?.head);
  const waiting = useProject((project) => project.waiting);
  const isMoving = useDesk((desk) => desk.live !== null);
  const [sheet, setSheet] = useState<TriesPicture | null>(null);
  const held = useRef<Frame | null>(null);
  const requests = useRef<NewestOnly<Asked> | null>(null);
  const wanted = JSON.stringify(alternatives);

  useEffect(() => {
    let left = false;
    const hold = (frame: Frame | null) => {
      if (held.current) closeFrame(held.current);
      held.current = frame;
    };
    requests.current = new NewestOnly<Asked>(async (asked) => {
      const came = await tried(projectId, asked);
      if (left && came) return closeFrame(came.frame);
      if (!came) return;
      setSheet(came);
      hold(came.frame);
    });
    return () => {
      left = true;
      hold(null);
    };
  }, [projectId]);

  useEffect(() => {
    // While something moves, the stage has the processor to itself.
    if (!revision || isMoving || wanted === NONE) return;
    requests.current?.push({
      revision,
      unsaved: waiting,
      alternatives: JSON.parse(wanted) as Edit[],
      width: Math.min(Math.round(width * window.devicePixelRatio), TRIES_REQUEST.width.maximum),
    });
  }, [revision, waiting, wanted, width, isMoving]);
  return sheet;
}

/** Return what came; null where nothing did: the stage tells of a lost connection. */
async function tried(projectId: string, asked: Asked): Promise<TriesPicture | null> {
  try {
    const response = await requestTries(projectId, asked);
    const [frame] = await decodeFrames(await response.arrayBuffer());
    if (!frame) return null;
    const { height, x, y, wide, high, alike } = JSON.parse(
      response.headers.get("Tiles") ?? "",
    ) as Told;
    return {
      frame,
      tileHeight: height,
      shows: { left: x, top: y, right: x + wide, bottom: y + high },
      alike: new Set(alike),
    };
  } catch {
    return null;
  }
}
