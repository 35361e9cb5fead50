/** A picture that was begun from photos opens with the last of them in hand. */

import { useEffect } from "react";
import { useLocation, useNavigate } from "react-router";
import { useDesk } from "@/state/desk/desk";
import type { Facet } from "@/state/desk/selection";
import { useProject } from "@/state/project";

/** What the way to a desk carries where its picture was begun from photos just now. */
export const BEGUN = { isBegun: true };

/** What it carries where one of its layers is to be worked on. */
export const toLayer = (layer: string, facet: Facet) => ({ layer, facet });

/** Open a layer once: the front one's place where photos began this picture, or what is named. */
export function useBegun(): void {
  const { state, pathname } = useLocation();
  const navigate = useNavigate();
  const isBegun = (state as typeof BEGUN | null)?.isBegun === true;
  const wanted = (state as ReturnType<typeof toLayer> | null)?.layer ?? null;
  const facet = (state as ReturnType<typeof toLayer> | null)?.facet ?? "place";
  useEffect(() => {
    if (!isBegun && wanted === null) return;
    const last = useProject.getState().known?.composite.layers.at(-1);
    useDesk.getState().actions.open(wanted ?? last?.id ?? null, facet);
    // Fetched anew, the desk opens as any other.
    void navigate(pathname, { replace: true, state: null });
  }, [isBegun, wanted, facet, pathname, navigate]);
}
