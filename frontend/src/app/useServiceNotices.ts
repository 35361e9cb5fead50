/** Hears what the service tells, and puts it where it belongs. */

import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { listen } from "@/api/notices";
import type { Notice } from "@/api/types";
import { useJobs } from "@/state/jobs";
import { useNotices } from "@/state/notices";

export function useServiceNotices(): void {
  const client = useQueryClient();
  useEffect(() => {
    const notices = useNotices.getState();
    const refresh = (key: string) => void client.invalidateQueries({ queryKey: [key] });
    const hear = (notice: Notice) => {
      switch (notice.kind) {
        case "job":
          useJobs.getState().know(notice.job);
          break;
        case "project":
          notices.hearMoved(notice.id, notice.changes);
          refresh("wall");
          refresh("versions");
          break;
        case "catch_up":
          notices.hearCatchUp();
          void client.invalidateQueries();
          break;
        default:
          refresh(notice.kind);
      }
    };
    return listen(hear, notices.setListening);
  }, [client]);
}
