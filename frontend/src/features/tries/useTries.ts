/** Fetches small renders of alternatives, all in one picture. */

import { useEffect, useRef, useState } from "react";
import { requestTries } from "@/api/calls";
import { closeFrame, decodeFrames, type Frame, NewestOnly } from "@/api/frames";
import type { Canvas, Edit } from "@/model/composite";
import { useDesk } from "@/state/desk/desk";
import { useComposite, useProject } from "@/state/project";
import { useDeskActions } from "@/work/DeskContext";

export interface TriesPicture {
  readonly frame: Frame;
  readonly tileHeight: number;
  /** CSS pixels. */
  readonly width: number;
  readonly height: number;
}

interface Asked {
  readonly revision: string;
  readonly unsaved: readonly Edit[];
  readonly alternatives: readonly Edit[];
  readonly width: number;
}

const NONE = "[]";
const TALLEST = 104;
const WIDEST = 116;

/** Return the renders of all alternatives, one below the other, or null at first. */
export function useTries(alternatives: readonly Edit[]): TriesPicture | null {
  const { projectId } = useDeskActions();
  const revision = useProject((project) => project.known?.head);
  const waiting = useProject((project) => project.waiting);
  const canvas = useComposite()?.canvas;
  const isMoving = useDesk((desk) => desk.live !== null);
  const [sheet, setSheet] = useState<TriesPicture | null>(null);
  const held = useRef<Frame | null>(null);
  const requests = useRef<NewestOnly<Asked> | null>(null);
  const wanted = JSON.stringify(alternatives);
  const width = canvas ? tileWidth(canvas) : 0;

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
    if (!revision || !width || isMoving || wanted === NONE) return;
    requests.current?.push({
      revision,
      unsaved: waiting,
      alternatives: JSON.parse(wanted) as Edit[],
      width: Math.round(width * window.devicePixelRatio),
    });
  }, [revision, waiting, wanted, width, isMoving]);
  return sheet;
}

/** Return the width at which a tile is neither too wide nor too tall. */
function tileWidth(canvas: Canvas): number {
  const byHeight = (TALLEST * canvas.width) / canvas.height;
  return Math.max(24, Math.round(Math.min(WIDEST, byHeight)));
}

/** Return what came; null where nothing did: the stage tells of a lost connection. */
async function tried(projectId: string, asked: Asked): Promise<TriesPicture | null> {
  try {
    const response = await requestTries(projectId, asked);
    const [frame] = await decodeFrames(await response.arrayBuffer());
    if (!frame) return null;
    const tileHeight = Number(response.headers.get("Tile-Height"));
    const width = asked.width / window.devicePixelRatio;
    return { frame, tileHeight, width, height: tileHeight / window.devicePixelRatio };
  } catch {
    return null;
  }
}
