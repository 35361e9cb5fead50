/** The edit that is being made, for those who need not follow every move of the hand. */

import { useEffect, useState } from "react";
import type { Edit } from "@/model/composite";
import { useDesk } from "@/state/desk/desk";

/** Numbers that change more often cannot be read, and cost the stage its frames. */
const CALM_MS = 140;

/** Return the live edit, at most some times a second; its end at once. */
export function useCalmLive(): Edit | null {
  const [live, setLive] = useState(() => useDesk.getState().live);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const unsubscribe = useDesk.subscribe((desk, before) => {
      if (desk.live === before.live) return;
      if (desk.live === null) {
        clearTimeout(timer);
        timer = undefined;
        setLive(null);
        return;
      }
      timer ??= setTimeout(() => {
        timer = undefined;
        setLive(useDesk.getState().live);
      }, CALM_MS);
    });
    return () => {
      clearTimeout(timer);
      unsubscribe();
    };
  }, []);
  return live;
}
