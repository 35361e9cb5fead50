/** Dragging the view. */

import type { Drag, Press } from "@/features/hand/drag";
import { pannedBy } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";

/** Begin to drag the view, with the space bar held or by the middle button. */
export function panning({ pans, touch }: Press): Drag | undefined {
  if (!pans) return undefined;
  let last = touch.onStage;
  return {
    move: ({ onStage, view }) => {
      const moved = pannedBy(view, onStage.x - last.x, onStage.y - last.y);
      useDesk.getState().actions.setView(moved);
      last = onStage;
    },
    end: () => undefined,
    cancel: () => undefined,
  };
}
