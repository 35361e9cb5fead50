/** Chooses photos for slots, one slot after the other as long as one is needed. */

import { type ReactElement, useRef } from "react";
import { type Chosen, PhotoChoices } from "@/features/plan/PhotoChooser";
import {
  type Filling,
  NOTHING,
  nextPlace,
  type Place,
  type PlanOffer,
  photosIn,
  placeNow,
  withPhoto,
} from "@/model/plans";
import { usePlans } from "@/state/plans";
import { Card } from "@/ui/LiveSelect";

interface SlotChooserProps {
  readonly plan: PlanOffer;
  /** Where the next photo goes; null while nothing is chosen. */
  readonly place: Place | null;
  onPlace(place: Place | null): void;
  onChange(change: (filling: Filling) => Filling): void;
}

export function SlotChooser(props: SlotChooserProps): ReactElement | null {
  const { plan, place, onPlace, onChange } = props;
  const anchor = useRef<Element | null>(null);
  if (place === null) return null;
  const { slot } = place;
  anchor.current = document.getElementById(`slot-${slot.name}`);
  const put = ({ id }: Chosen) => onChange((now) => withPhoto(now, placeNow(now, place), id));
  const take = (picture: Chosen) => {
    const isNew = photosIn(filled(plan), slot.name)[place.at] === undefined;
    put(picture);
    onPlace(isNew ? nextPlace(plan, filled(plan), place) : null);
  };
  return (
    <Card
      key={slot.name}
      isOpen
      triggerRef={anchor}
      placement="right top"
      onOpenChange={(isOpen) => {
        if (!isOpen) onPlace(null);
      }}
    >
      <PhotoChoices what={slot.title} takesSeveral={slot.most > 1} onTake={take} onBring={put} />
    </Card>
  );
}

/** What is put into a plan just now: more than one photo may come within one press. */
const filled = ({ name }: PlanOffer) => usePlans.getState().fillings[name] ?? NOTHING;
