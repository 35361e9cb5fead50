/** Has the ways of a backdrop found in the background, so that the strip can show them. */

import { useEffect, useState } from "react";
import type { Composite, PhotoLayer } from "@/model/composite";
import {
  cutTries,
  type Found,
  type MattePart,
  requestsFor,
  type TitledRequest,
} from "@/model/mattes";
import type { TryGroup } from "@/model/tries";
import { useCutting } from "@/state/cutting";
import { findMatte } from "@/work/cutting/findMatte";
import { useNetworks } from "@/work/cutting/useNetworks";

const NOTHING: Found = {};

export interface CutTries {
  readonly groups: readonly TryGroup[];
  /** How many are still being found. */
  readonly waiting: number;
}

/** Return what can be tried by now; more comes as it is found. */
export function useCutTries(
  composite: Composite,
  layer: PhotoLayer,
  part: MattePart | null,
): CutTries {
  const { picture } = layer;
  const { networks } = useNetworks();
  const found = useCutting((cutting) => cutting.found[picture] ?? NOTHING);
  const isFinding = useCutting(({ findings }) => Object.keys(findings).length > 0);
  const requests = requestsFor(part, found, networks);
  const [failed, setFailed] = useState(0);
  const wanted = JSON.stringify(requests);

  useEffect(() => {
    // What somebody waits for comes first.
    if (isFinding) return;
    const stopping = new AbortController();
    setFailed(0);
    const find = async () => {
      for (const { request } of JSON.parse(wanted) as TitledRequest[]) {
        if (stopping.signal.aborted) return;
        await findMatte({ picture, request, haste: "next" }, stopping.signal).catch(
          () => stopping.signal.aborted || setFailed((count) => count + 1),
        );
      }
    };
    void find();
    return () => stopping.abort();
  }, [picture, wanted, isFinding]);

  const groups = cutTries(composite, layer, part, found, networks);
  const ready = groups.reduce((sum, group) => sum + group.tries.length, 0);
  return { groups, waiting: Math.max(requests.length - ready - failed, 0) };
}
