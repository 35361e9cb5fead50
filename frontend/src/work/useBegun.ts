/** A picture that was begun from photos opens with the last of them in hand. */

import { useEffect } from "react";
import { useLocation, useNavigate } from "react-router";
import { useDesk } from "@/state/desk/desk";
import { useProject } from "@/state/project";

/** What the way to a desk carries where its picture was begun from photos just now. */
export const BEGUN = { isBegun: true };

/** What it carries where one of its layers is to be placed. */
export const toPlace = (layer: string) => ({ layer });

/** Open a layer's Place once: the front one where photos began this picture, or one that is named. */
export function useBegun(): void {
  const { state, pathname } = useLocation();
  const navigate = useNavigate();
  const isBegun = (state as typeof BEGUN | null)?.isBegun === true;
  const wanted = (state as ReturnType<typeof toPlace> | null)?.layer ?? null;
  useEffect(() => {
    if (!isBegun && wanted === null) return;
    const last = useProject.getState().known?.composite.layers.at(-1);
    useDesk.getState().actions.open(wanted ?? last?.id ?? null, "place");
    // Fetched anew, the desk opens as any other.
    void navigate(pathname, { replace: true, state: null });
  }, [isBegun, wanted, pathname, navigate]);
}
