/** What every part of the desk can do to the open project. */

import { createContext, useContext } from "react";
import type { Edit } from "@/model/composite";

export interface DeskActions {
  readonly projectId: string;
  /** Whether another project is open by now, or none: what comes late shows there nothing. */
  isLeft(): boolean;
  edit(edit: Edit): void;
  undo(): void;
  redo(): void;
  stand(revision: string): void;
  rename(name: string): Promise<void>;
  /** Send again what the service failed at. */
  tryAgain(): void;
  /** Do without what the service fails at. */
  leaveOut(): void;
}

export const DeskContext = createContext<DeskActions | null>(null);

/** Return what can be done on the desk; only inside of one. */
export function useDeskActions(): DeskActions {
  const actions = useContext(DeskContext);
  if (!actions) throw new Error("useDeskActions needs a desk round it");
  return actions;
}
