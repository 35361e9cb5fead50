/** What the desk shows and works on; nothing of it is an edit. */

import { create } from "zustand";
import { NOTHING_OPEN, type Selection, selectionActions } from "@/state/desk/selection";
import { NOTHING_TRIED, type Trying, tryingActions } from "@/state/desk/trying";
import type { Change } from "@/state/desk/types";
import {
  SEEN_WHOLE,
  SURROUNDINGS,
  type Surroundings,
  type Viewing,
  viewingActions,
} from "@/state/desk/viewing";

type DeskState = Selection & Viewing & Surroundings & Trying;

const FRESH = { ...NOTHING_OPEN, ...SEEN_WHOLE, ...NOTHING_TRIED };

const actionsOf = (change: Change<DeskState>) => ({
  ...selectionActions(change),
  ...viewingActions(change),
  ...tryingActions(change),
  reset: () => change(FRESH),
});

interface DeskStore extends DeskState {
  readonly actions: ReturnType<typeof actionsOf>;
}

export const useDesk = create<DeskStore>((set) => ({
  ...FRESH,
  ...SURROUNDINGS,
  actions: actionsOf(set),
}));
