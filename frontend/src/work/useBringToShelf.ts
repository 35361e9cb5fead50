/** Brings files onto the shelf of the open desk, and says what can be done with them. */

import { useCallback } from "react";
import type { BroughtIn } from "@/api/types";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { useMessages } from "@/state/messages";
import { expectedComposite } from "@/state/project";
import type { DeskActions } from "@/work/DeskContext";
import { useBringIn } from "@/work/useBringIn";
import { layTogether } from "@/work/useBringOn";

export function useBringToShelf(desk: DeskActions): (files: readonly File[]) => void {
  const bringIn = useBringIn();
  return useCallback(
    (files) => {
      const brought: BroughtIn[] = [];
      bringIn(
        files,
        (picture) => brought.push(picture),
        () => tellOf(desk, brought),
      );
    },
    [desk, bringIn],
  );
}

function tellOf(desk: DeskActions, brought: readonly BroughtIn[]): void {
  const { say } = useMessages.getState();
  const known = brought.filter((picture) => picture.was_there);
  if (known.length > 0) {
    useDesk.getState().actions.mark(known.map(({ id }) => id));
    const names = known.map(({ name }) => name).join(", ");
    say(`${names}: on the shelf already, and marked there.`);
  }
  if (brought.length === 0 || expectedComposite()?.layers.length !== 0) return;
  say(`${sayCount(brought.length, "picture")} on the shelf, and nothing on the sheet yet.`, {
    label: brought.length === 1 ? "Lay it on" : "Lay them on",
    run: () => {
      layTogether(desk, brought);
    },
  });
}
