/** Backdrops of many photos at once: of all in a group, and of all on the shelf. */

import type { ReactElement } from "react";
import styled from "styled-components";
import type { Picture } from "@/api/types";
import {
  allLayers,
  type Composite,
  type GroupLayer,
  isLocked,
  layerById,
  type PhotoLayer,
} from "@/model/composite";
import { hasColours } from "@/model/drawing";
import { BY_ITSELF, cutOutEdit, type FoundMatte, matteOf, ownMatte } from "@/model/mattes";
import { sayCount } from "@/model/wording";
import { useManyCuts } from "@/state/manyCuts";
import { expectedComposite } from "@/state/project";
import { PlainButton, StrongButton } from "@/ui/Button";
import { Progress } from "@/ui/Progress";
import { findMany } from "@/work/cutting/findMany";
import { useDeskActions } from "@/work/DeskContext";

const Row = styled.div`
  display: flex;
  flex: 1;
  align-items: center;
  gap: 10px;
  min-width: 220px;
`;

const SHELF = "shelf";

interface GroupBackdropsProps {
  readonly composite: Composite;
  readonly group: GroupLayer;
}

/** Take the background of every photo in a group away that has it still. */
export function GroupBackdrops({ composite, group }: GroupBackdropsProps): ReactElement | null {
  const desk = useDeskActions();
  const isRunning = useManyCuts(({ running }) => group.id in running);
  const whole = allLayers(group.layers)
    .filter(hasColours)
    .filter((photo) => !ownMatte(photo) && !isLocked(composite, photo.id));
  const cut = (photo: PhotoLayer, found: FoundMatte) => {
    const now = expectedComposite();
    const there = now ? layerById(now, photo.id) : undefined;
    if (!now || !there || !hasColours(there) || ownMatte(there)) return;
    desk.edit(cutOutEdit(there, matteOf(now, there, found, BY_ITSELF, null)));
  };
  if (isRunning) return <Running whose={group.id} />;
  if (whole.length === 0) return null;
  return (
    <div>
      <StrongButton onPress={() => void findMany({ whose: group.id, haste: "now" }, whole, cut)}>
        Take the background of {sayCount(whole.length, "photo")} away
      </StrongButton>
    </div>
  );
}

/** Have all backdrops of the shelf found beforehand: cutting out is immediate then. */
export function PrepareBackdrops({
  pictures,
}: {
  readonly pictures: readonly Picture[];
}): ReactElement {
  const isRunning = useManyCuts(({ running }) => SHELF in running);
  if (isRunning) return <Running whose={SHELF} />;
  const wanted = pictures.filter(({ ready }) => ready).map(({ id }) => ({ picture: id }));
  const find = () => findMany({ whose: SHELF, haste: "whenever" }, wanted, () => undefined);
  return (
    <PlainButton isDisabled={wanted.length === 0} onPress={() => void find()}>
      Find all backgrounds beforehand
    </PlainButton>
  );
}

function Running({ whose }: { readonly whose: string }): ReactElement | null {
  const progress = useManyCuts(({ running }) => running[whose]);
  if (!progress) return null;
  const { done, total, stop } = progress;
  return (
    <Row role="status">
      <span>
        {done} of {total}
      </span>
      <Progress label="Backgrounds found" share={done / total} />
      <PlainButton onPress={stop}>Stop</PlainButton>
    </Row>
  );
}
