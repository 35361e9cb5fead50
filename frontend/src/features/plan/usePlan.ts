/** A plan as it is being filled: what would come of it, and a picture of that. */

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { v4 as newId } from "uuid";
import { beginFromPlan, cancelJob, fetchPlanFrame, lookAtPlan } from "@/api/calls";
import { type Filling, NOTHING, type PlanLook, type PlanOffer } from "@/model/plans";
import type { Facet } from "@/state/desk/selection";
import { useMessages } from "@/state/messages";
import { usePlans } from "@/state/plans";
import { useSettled } from "@/state/useSettled";
import { jobEnd } from "@/work/jobEnd";
import { toLayer } from "@/work/useBegun";

/** While somebody types or drags on, nothing is asked for. */
const SETTLES_MS = 250;
const SIDE = 1400;

/** Return what is put into a plan, and what changes it. */
export function useFilling(
  plan: PlanOffer,
): [Filling, (change: (filling: Filling) => Filling) => void] {
  const filling = usePlans(({ fillings }) => fillings[plan.name] ?? NOTHING);
  const change = useCallback(
    (changing: (before: Filling) => Filling) => usePlans.getState().change(plan.name, changing),
    [plan.name],
  );
  return [filling, change];
}

export interface Seen {
  readonly look: PlanLook | undefined;
  /** Address of a picture of it, once there is one. */
  readonly frame: string | null;
  readonly isFetching: boolean;
  readonly trouble: string | null;
  again(): void;
}

/** Return what would come of a plan; it is asked for again whenever something was found. */
export function useSeen(plan: PlanOffer, filling: Filling): Seen {
  const settled = useSettled(filling, SETTLES_MS);
  const client = useQueryClient();
  const key = ["plan", plan.name, settled] as const;
  const look = useQuery({
    queryKey: [...key, "look"],
    queryFn: () => lookAtPlan(plan.name, settled),
    placeholderData: keepPreviousData,
    gcTime: 0,
  });
  const frame = useQuery({
    queryKey: [...key, "frame"],
    queryFn: () => fetchPlanFrame(plan.name, settled, SIDE),
    placeholderData: keepPreviousData,
    gcTime: 0,
  });
  const again = useCallback(
    () => void client.invalidateQueries({ queryKey: ["plan", plan.name] }),
    [client, plan.name],
  );
  useFinds(look.data, again);
  const trouble = look.error ?? frame.error;
  return {
    look: look.data,
    frame: useAddress(frame.data),
    isFetching: frame.isFetching || settled !== filling,
    trouble: trouble?.message ?? null,
    again,
  };
}

/** Hear when what is sought is found; what nobody waits for any more is stopped. */
function useFinds(look: PlanLook | undefined, onFound: () => void): void {
  const sought = useRef(new Set<string>());
  useEffect(() => {
    if (!look) return;
    const before = sought.current;
    const now = new Set(look.sought.flatMap(({ job }) => (job ? [job.id] : [])));
    sought.current = now;
    for (const id of [...before].filter((one) => !now.has(one))) stop(id);
    for (const id of [...now].filter((one) => !before.has(one))) {
      const over = () => {
        if (sought.current.delete(id)) onFound();
      };
      jobEnd(id, () => undefined).then(over, over);
    }
  }, [look, onFound]);
  useEffect(
    () => () => {
      for (const id of sought.current) stop(id);
      sought.current = new Set();
    },
    [],
  );
}

const stop = (id: string) => void cancelJob(id).catch(() => undefined);

function useAddress(file: Blob | undefined): string | null {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    if (!file) return;
    const made = URL.createObjectURL(file);
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [file]);
  return address;
}

export interface Begin {
  readonly isBeginning: boolean;
  /** Begin the picture and go on at the desk; at a layer's facet, where one is named. */
  begin(at?: { readonly layer: string; readonly facet: Facet }): void;
}

export function useBeginFromPlan(plan: PlanOffer, filling: Filling): Begin {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [isBeginning, setBeginning] = useState(false);
  const begin: Begin["begin"] = (at) => {
    const id = newId();
    setBeginning(true);
    beginFromPlan(plan.name, { id, filling }).then(
      () => {
        void client.invalidateQueries({ queryKey: ["wall"] });
        void navigate(`/desk/${id}`, at ? { state: toLayer(at.layer, at.facet) } : {});
      },
      (error: Error) => {
        setBeginning(false);
        useMessages.getState().warn(error.message);
      },
    );
  };
  return { isBeginning, begin };
}
