/** Keeping how another layer shows now, so that a mask no longer follows it. */

import { useMutation } from "@tanstack/react-query";
import { keepPart } from "@/api/calls";
import type { Layer, MaskPart } from "@/model/composite";
import { changePart } from "@/model/masks";
import { useMessages } from "@/state/messages";
import { useProject } from "@/state/project";
import { useDeskActions } from "@/work/DeskContext";

interface KeepShape {
  readonly isUnderWay: boolean;
  keep(): void;
}

export function useKeepShape(layer: Layer, part: MaskPart): KeepShape {
  const desk = useDeskActions();
  const { mutate, isPending } = useMutation({
    mutationFn: () => {
      const { known, waiting } = useProject.getState();
      const state = { revision: known?.head ?? "", unsaved: waiting };
      return keepPart(desk.projectId, { ...state, layer_id: layer.id, part_id: part.id });
    },
    onSuccess: (kept) => desk.edit(changePart(layer, kept)),
    onError: (error) => useMessages.getState().warn(error.message),
  });
  return { isUnderWay: isPending, keep: () => mutate() };
}
