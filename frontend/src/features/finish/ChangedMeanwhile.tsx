/** Says that the picture was changed elsewhere since it came here to be finished. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import type { ReactElement } from "react";
import { fetchProject } from "@/api/calls";
import type { ProjectState } from "@/api/types";
import { Said } from "@/features/finish/Said";
import { LiveWord } from "@/ui/LiveWord";

export function ChangedMeanwhile({
  project,
}: {
  readonly project: ProjectState;
}): ReactElement | null {
  const client = useQueryClient();
  // Asked for anew whenever the service tells of a change.
  const now = useQuery({
    queryKey: ["versions", project.id, "now"],
    queryFn: () => fetchProject(project.id),
  });
  if (!now.data || now.data.changes <= project.changes || now.data.head === project.head) {
    return null;
  }
  return (
    <Said>
      The picture was changed meanwhile. Files are made of how it was when you came here.{" "}
      <LiveWord onPress={() => client.setQueryData(["finish", project.id], now.data)}>
        Take it as it is now
      </LiveWord>
    </Said>
  );
}
