/** The fan: all layers under a point, asked of the service. */

import { useCallback, useRef, useState } from "react";
import { fetchLayersThere } from "@/api/calls";
import type { LayerThere } from "@/api/types";
import type { Point } from "@/model/points";
import { stageToCanvas } from "@/model/viewing";
import { useMessages } from "@/state/messages";
import { useProject } from "@/state/project";
import { viewInForce } from "@/work/zooming";

export interface FanState {
  /** CSS pixels of the stage. */
  readonly at: Point;
  /** null while they are fetched. */
  readonly layers: readonly LayerThere[] | null;
}

export interface FanControl {
  readonly fan: FanState | null;
  openAt(at: Point): void;
  close(): void;
}

export function useFan(): FanControl {
  const [fan, setFan] = useState<FanState | null>(null);
  const asked = useRef(0);
  const openAt = useCallback((at: Point) => {
    const view = viewInForce();
    const { known, waiting } = useProject.getState();
    if (!view || !known) return;
    asked.current += 1;
    const turn = asked.current;
    setFan({ at, layers: null });
    const draft = { revision: known.head, unsaved: waiting };
    fetchLayersThere(known.id, { ...draft, ...stageToCanvas(view, at) }).then(
      (layers) => turn === asked.current && setFan({ at, layers }),
      (error: Error) => {
        if (turn !== asked.current) return;
        setFan(null);
        useMessages.getState().warn(error.message);
      },
    );
  }, []);
  const close = useCallback(() => {
    asked.current += 1;
    setFan(null);
  }, []);
  return { fan, openAt, close };
}
