/** Backdrops of many photos at once: of all in a group, and of all on the shelf. */

import type { ReactElement } from "react";
import styled from "styled-components";
import type { Picture } from "@/api/types";
import { type Many, useMany } from "@/features/cut/useMany";
import { useDeskActions } from "@/features/desk/DeskContext";
import { allLayers, type GroupLayer, layerById, type PhotoLayer } from "@/model/composite";
import { hasColours } from "@/model/drawing";
import { BY_ITSELF, cutOutEdit, hasMatte, matteOf } from "@/model/mattes";
import { sayCount } from "@/model/wording";
import { useMessages } from "@/state/messages";
import { expectedComposite } from "@/state/project";
import { PlainButton, StrongButton } from "@/ui/Button";
import { Progress } from "@/ui/Progress";

const Row = styled.div`
  display: flex;
  flex: 1;
  align-items: center;
  gap: 10px;
  min-width: 220px;
`;

function tell(missed: number, total: number): void {
  const found = sayCount(total - missed, "background");
  const rest = missed > 0 ? `; ${sayCount(missed, "photo")} without a clear subject` : "";
  useMessages.getState().say(`${found} found${rest}.`);
}

/** Take the background of every photo in a group away that has it still. */
export function GroupBackdrops({ group }: { readonly group: GroupLayer }): ReactElement | null {
  const desk = useDeskActions();
  const photos = allLayers(group.layers).filter(hasColours);
  const whole = photos.filter((photo) => !hasMatte(photo) && !photo.locked);
  const many = useMany<PhotoLayer>(
    false,
    (photo, found) => {
      const composite = expectedComposite();
      const there = composite ? layerById(composite, photo.id) : undefined;
      if (!composite || !there || !hasColours(there) || hasMatte(there)) return;
      desk.edit(cutOutEdit(there, matteOf(composite, there, found, BY_ITSELF, null)));
    },
    tell,
  );
  if (many.progress) return <Running many={many} />;
  if (whole.length === 0) return null;
  return (
    <div>
      <StrongButton onPress={() => many.begin(whole)}>
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
}): ReactElement | null {
  const many = useMany<{ picture: string }>(true, () => undefined, tell);
  if (many.progress) return <Running many={many} />;
  const wanted = pictures.filter(({ ready }) => ready).map(({ id }) => ({ picture: id }));
  return (
    <PlainButton isDisabled={wanted.length === 0} onPress={() => many.begin(wanted)}>
      Find all backgrounds beforehand
    </PlainButton>
  );
}

function Running<T>({ many }: { readonly many: Many<T> }): ReactElement {
  const { done, total } = many.progress ?? { done: 0, total: 1 };
  return (
    <Row role="status">
      <span>
        {done} of {total}
      </span>
      <Progress label="Backgrounds found" share={done / total} />
      <PlainButton onPress={many.stop}>Stop</PlainButton>
    </Row>
  );
}
