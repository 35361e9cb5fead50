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
  /** How many there are. */
  readonly tiles: number;
}

/** Some of the alternatives in one picture: those from the first on. */
export interface TriesSheet {
  readonly first: number;
  readonly picture: TriesPicture;
}

/** Where one alternative is shown. */
export interface SheetPlace {
  readonly picture: TriesPicture;
  readonly place: number;
}

/** Part of the canvas, in its pixels. */
export interface CanvasWindow {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

interface Asked {
  readonly revision: string;
  readonly unsaved: readonly Edit[];
  readonly alternatives: readonly Edit[];
  readonly width: number;
  readonly window: CanvasWindow | null;
}

/** With a window of their own alternatives are asked for so many at once: the first come soon. */
const AT_ONCE = 12;

const NONE = "[]";
/** How high a tile is until somebody drags it, and how wide at most beside that. */
const USUAL_HEIGHT = 104;
const WIDEST = 116 / 104;

/** How large tiles are, in CSS pixels, whatever comes to be shown in them. */
export interface TileSize extends Size {
  /** As a person dragged it: what tiles of this picture may be lower than. */
  readonly tallest: number;
}

export function useTileSize(window?: CanvasWindow): TileSize {
  const tallest = useSettings((settings) => settings.tileHeight) ?? USUAL_HEIGHT;
  const canvas = useComposite()?.canvas;
  const { width, height } = window ?? canvas ?? { width: 1, height: 1 };
  if (window) return { width: Math.round((tallest * width) / height), height: tallest, tallest };
  const wide = Math.max(24, Math.round(Math.min(tallest * WIDEST, (tallest * width) / height)));
  return { width: wide, height: Math.max(1, Math.round((wide * height) / width)), tallest };
}

/** Return the renders of all alternatives, so wide on the page; none at first. */
export function useTries(
  alternatives: readonly Edit[],
  width: number,
  window?: CanvasWindow,
): readonly TriesSheet[] {
  const { projectId } = useDeskActions();
  const revision = useProject((project) => project.known?.head);
  const waiting = useProject((project) => project.waiting);
  const isMoving = useDesk((desk) => desk.live !== null);
  const [sheets, setSheets] = useState<readonly TriesSheet[]>([]);
  const newest = useRef<Asked | null>(null);
  const requests = useRef<NewestOnly<Asked> | null>(null);
  const wanted = JSON.stringify(alternatives);
  const shown = JSON.stringify(window ?? null);

  useEffect(() => {
    const held = new HeldSheets(setSheets);
    requests.current = new NewestOnly<Asked>((asked) =>
      fetchAll(projectId, asked, (sheet) => held.hold(sheet) && newest.current === asked, held),
    );
    return () => held.leave();
  }, [projectId]);

  useEffect(() => {
    // While something moves, the stage has the processor to itself.
    if (!revision || isMoving || wanted === NONE) return;
    newest.current = {
      revision,
      unsaved: waiting,
      alternatives: JSON.parse(wanted) as Edit[],
      width: Math.min(Math.round(width * devicePixelRatio), TRIES_REQUEST.width.maximum),
      window: JSON.parse(shown) as CanvasWindow | null,
    };
    requests.current?.push(newest.current);
  }, [revision, waiting, wanted, width, shown, isMoving]);
  return sheets;
}

/** Fetch sheet after sheet, for as long as `show` tells that they are wanted. */
async function fetchAll(
  projectId: string,
  asked: Asked,
  show: (sheet: TriesSheet) => boolean,
  held: HeldSheets,
): Promise<void> {
  const { alternatives } = asked;
  const step = asked.window ? AT_ONCE : alternatives.length;
  for (let first = 0; first < alternatives.length; first += step) {
    const some = alternatives.slice(first, first + step);
    const picture = await tried(projectId, { ...asked, alternatives: some });
    if (!picture || !show({ first, picture })) return;
  }
  held.endAt(alternatives.length);
}

/** The sheets that are shown; their frames take memory until they are closed. */
class HeldSheets {
  readonly #show: (sheets: readonly TriesSheet[]) => void;
  #sheets: readonly TriesSheet[] = [];
  #isLeft = false;

  constructor(show: (sheets: readonly TriesSheet[]) => void) {
    this.#show = show;
  }

  /** Show a sheet in the place of those that it covers; tell whether anyone looks. */
  hold(sheet: TriesSheet): boolean {
    if (this.#isLeft) {
      closeFrame(sheet.picture.frame);
      return false;
    }
    const end = sheet.first + sheet.picture.tiles;
    this.#keep(({ first, picture }) => first >= end || first + picture.tiles <= sheet.first);
    this.#sheets = [...this.#sheets, sheet];
    this.#show(this.#sheets);
    return true;
  }

  /** Show none of tiles that are not asked for any more. */
  endAt(tiles: number): void {
    this.#keep(({ first }) => first < tiles);
    if (!this.#isLeft) this.#show(this.#sheets);
  }

  leave(): void {
    this.#isLeft = true;
    this.#keep(() => false);
  }

  #keep(stays: (sheet: TriesSheet) => boolean): void {
    for (const one of this.#sheets) if (!stays(one)) closeFrame(one.picture.frame);
    this.#sheets = this.#sheets.filter(stays);
  }
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
      tiles: asked.alternatives.length,
    };
  } catch {
    return null;
  }
}
