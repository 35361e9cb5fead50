/** One slot of a plan: its photos in mounts, what suits it, and what is said of them. */

import { type DragEvent, type ReactElement, useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { thumbnailUrl } from "@/api/calls";
import { filesOf } from "@/api/dropped";
import {
  type Filling,
  moved,
  type Place,
  type PlanLook,
  type PlanSlot,
  photosIn,
  withoutPhoto,
  withPhoto,
} from "@/model/plans";
import { color, font } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { Word } from "@/ui/Word";
import { draggedPicture } from "@/work/dragging";
import { useBringIn } from "@/work/useBringIn";

const MOUNT = 126;
/** Of several, three stand beside one another. */
const SMALL = 110;

const Item = styled.li`
  display: grid;
  grid-template-columns: ${MOUNT}px 1fr;
  gap: 6px 18px;
  align-items: start;

  &[data-several="true"] {
    grid-template-columns: 1fr;
  }
`;

/** Four corners hold the photo, as in an album. */
const Mount = styled.div`
  position: relative;
  width: ${MOUNT}px;
  height: ${MOUNT}px;
  background: ${color.well};

  &[data-small="true"] {
    width: ${SMALL}px;
    height: ${SMALL}px;
  }

  &[data-over="true"] {
    outline: 2px solid ${color.on};
    outline-offset: 2px;
  }

  &::before,
  &::after {
    position: absolute;
    inset: -2px;
    z-index: 1;
    background:
      linear-gradient(var(--lean), ${color.ink} 10px, transparent 10.5px) no-repeat,
      linear-gradient(calc(var(--lean) + 180deg), ${color.ink} 10px, transparent 10.5px) no-repeat;
    content: "";
    pointer-events: none;
  }

  &::before {
    --lean: 135deg;
  }

  &::after {
    --lean: 225deg;
  }

  img {
    display: block;
    width: 100%;
    height: 100%;
    object-fit: cover;
  }
`;

const Free = styled(Button)`
  width: 100%;
  height: 100%;
  padding: 14px;
  border: 1px solid ${color.rule};
  background: none;
  color: ${color.softInk};
  font-family: ${font.control};
  font-size: 13px;
  line-height: 1.4;
  cursor: pointer;

  &[data-hovered] {
    color: ${color.ink};
  }
`;

const Title = styled.h2`
  font-family: ${font.name};
  font-size: 15px;
  font-weight: 680;

  small {
    color: ${color.softInk};
    font-size: 14px;
    font-weight: 400;
  }
`;

const Suits = styled.p`
  font-family: ${font.reading};
  font-size: 14.5px;
  line-height: 1.4;
`;

const Note = styled.p`
  color: ${color.on};
  font-size: 12.5px;
  line-height: 1.45;

  &[data-kind="poor"] {
    color: ${color.trouble};
  }

  &[data-kind="why"] {
    color: ${color.softInk};
  }
`;

const Row = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  margin-top: 6px;
`;

const Deeds = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: baseline;
`;

interface SlotItemProps {
  readonly slot: PlanSlot;
  readonly filling: Filling;
  readonly look: PlanLook | undefined;
  onChange(change: (filling: Filling) => Filling): void;
  /** Have a photo chosen for a place. */
  onChoose(place: Place): void;
}

export function SlotItem({ slot, filling, look, onChange, onChoose }: SlotItemProps): ReactElement {
  const photos = photosIn(filling, slot.name);
  const several = slot.most > 1;
  const text = (
    <div>
      <Title>
        {slot.title} {slot.needed ? null : <small>if you like</small>}
        {several ? <small>{sayRoom(slot)}</small> : null}
      </Title>
      <Suits title={slot.why}>{slot.suits}</Suits>
      {slot.why && photos.length === 0 ? <Note data-kind="why">{slot.why}</Note> : null}
      {several ? null : <Notes look={look} slot={slot} picture={photos[0]} />}
      {several || photos.length === 0 ? null : (
        <Deeds>
          <Word
            aria-label={`other photo… for ${slot.title}`}
            onPress={() => onChoose({ slot, at: 0 })}
          >
            other photo…
          </Word>
          <QuietButton
            aria-label={`take it out: ${slot.title}`}
            onPress={() => onChange((now) => withoutPhoto(now, { slot, at: 0 }))}
          >
            take it out
          </QuietButton>
        </Deeds>
      )}
    </div>
  );
  if (!several) {
    return (
      <Item id={`slot-${slot.name}`}>
        <PhotoMount
          place={{ slot, at: 0 }}
          picture={photos[0]}
          onChange={onChange}
          onChoose={onChoose}
        />
        {text}
      </Item>
    );
  }
  const shown = photos.length < slot.most ? [...photos, undefined] : photos;
  return (
    <Item id={`slot-${slot.name}`} data-several="true">
      {text}
      <Row>
        {shown.map((picture, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the same photo may come twice
          <li key={`${at}-${picture ?? ""}`}>
            <PhotoMount
              place={{ slot, at }}
              picture={picture}
              onChange={onChange}
              onChoose={onChoose}
            />
            {picture === undefined ? null : (
              <OfSeveral place={{ slot, at }} count={photos.length} onChange={onChange} />
            )}
            <Notes look={look} slot={slot} picture={picture} isShort />
          </li>
        ))}
      </Row>
    </Item>
  );
}

function sayRoom({ least, most }: PlanSlot): string {
  return ` ${least} to ${most}, in their order`;
}

interface NotesProps {
  readonly look: PlanLook | undefined;
  readonly slot: PlanSlot;
  readonly picture: string | undefined;
  /** Only what does not do well. */
  readonly isShort?: boolean;
}

function Notes({ look, slot, picture, isShort = false }: NotesProps): ReactElement | null {
  if (picture === undefined || !look) return null;
  const said = look.photos.find((one) => one.slot === slot.name && one.picture === picture);
  const failed = look.sought.filter((one) => one.picture === picture && one.error);
  return (
    <>
      {(said?.notes ?? [])
        .filter(({ kind }) => !isShort || kind === "poor")
        .map(({ kind, says }) => (
          <Note key={says} data-kind={kind} style={isShort ? { maxWidth: SMALL } : undefined}>
            {kind === "good" ? "✓ " : ""}
            {says}
          </Note>
        ))}
      {failed.map(({ what, error }) => (
        <Note key={what} data-kind="poor">
          {error}
        </Note>
      ))}
    </>
  );
}

interface MountProps {
  readonly place: Place;
  readonly picture: string | undefined;
  onChange(change: (filling: Filling) => Filling): void;
  onChoose(place: Place): void;
}

function PhotoMount({ place, picture, onChange, onChoose }: MountProps): ReactElement {
  const [isOver, setOver] = useState(false);
  const bringIn = useBringIn();
  const { slot, at } = place;
  const isNeeded = slot.needed && at < slot.least;
  const asked = isNeeded ? "drop a photo, or choose one" : "drop a photo, or leave it";
  const take = (taken: string) => onChange((now) => withPhoto(now, place, taken));
  // Of several that come one after the other, each takes the next place.
  const takeMore = (taken: string) =>
    onChange((now) =>
      withPhoto(now, { slot, at: Math.max(at, photosIn(now, slot.name).length) }, taken),
    );
  const drop = (event: DragEvent) => {
    event.preventDefault();
    event.stopPropagation();
    setOver(false);
    const carried = draggedPicture(event.dataTransfer);
    if (carried) {
      take(carried.id);
      return;
    }
    void filesOf(event.dataTransfer).then((files) => {
      let isFirst = true;
      bringIn(files.slice(0, slot.most), ({ id }) => {
        if (isFirst) take(id);
        else takeMore(id);
        isFirst = false;
      });
    });
  };
  return (
    <Mount
      data-over={isOver}
      data-small={slot.most > 1}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      {picture === undefined ? (
        <Free aria-label={`${asked} for ${slot.title}`} onPress={() => onChoose(place)}>
          {asked}
        </Free>
      ) : (
        <img src={thumbnailUrl(picture)} alt={`In ${slot.title}`} />
      )}
    </Mount>
  );
}

interface OfSeveralProps {
  readonly place: Place;
  readonly count: number;
  onChange(change: (filling: Filling) => Filling): void;
}

function OfSeveral({ place, count, onChange }: OfSeveralProps): ReactElement {
  const { at } = place;
  const which = `photo ${at + 1}`;
  return (
    <Deeds>
      <QuietButton
        aria-label={`Move ${which} one place earlier`}
        isDisabled={at === 0}
        onPress={() => onChange((now) => moved(now, place, -1))}
      >
        ‹
      </QuietButton>
      <QuietButton
        aria-label={`Move ${which} one place later`}
        isDisabled={at === count - 1}
        onPress={() => onChange((now) => moved(now, place, 1))}
      >
        ›
      </QuietButton>
      <QuietButton
        aria-label={`Take ${which} out`}
        onPress={() => onChange((now) => withoutPhoto(now, place))}
      >
        out
      </QuietButton>
    </Deeds>
  );
}
