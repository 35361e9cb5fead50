/** The shelf: every picture brought in, from any project, and those on their way. */

import { useQuery } from "@tanstack/react-query";
import { lazy, type ReactElement, Suspense } from "react";
import styled from "styled-components";
import { fetchShelf, thumbnailUrl } from "@/api/calls";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { useFinding } from "@/state/finding";
import { useNotices } from "@/state/notices";
import { useProject } from "@/state/project";
import { color } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { Arrivals } from "@/work/Arrivals";
import { layOn } from "@/work/commands";
import { useDeskActions } from "@/work/DeskContext";
import { carryPicture } from "@/work/dragging";

const OpenShelf = lazy(async () => ({
  default: (await import("@/features/shelf/OpenShelf")).OpenShelf,
}));

const Drawer = styled.section`
  border-top: 1px solid ${color.rule};
  background: ${color.paper};
`;

const Bar = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
  height: 36px;
  padding: 0 16px 0 10px;
`;

const Few = styled.div`
  display: flex;
  flex: 1;
  gap: 8px;
  overflow: hidden;
`;

const Small = styled.button`
  flex: none;
  width: 34px;
  height: 24px;
  padding: 0;
  border: 0;
  cursor: pointer;

  img {
    display: block;
    width: 100%;
    height: 100%;
    object-fit: cover;
  }
`;

const Soft = styled.span`
  color: ${color.softInk};
`;

export function Shelf(): ReactElement {
  const open = useDesk((desk) => desk.shelfOpen);
  const { setShelf } = useDesk((desk) => desk.actions);
  const desk = useDeskActions();
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: fetchShelf });
  const pictures = shelf.data ?? [];
  const own = pictures.filter((picture) => picture.on_shelf);
  return (
    <Drawer aria-label="The shelf">
      <Arrivals />
      <Bar>
        <QuietButton aria-expanded={open} onPress={() => setShelf(!open)}>
          {open ? "▾" : "▴"} Shelf, {sayCount(own.length, "picture")}
        </QuietButton>
        <Few>
          {open
            ? null
            : own.slice(0, 12).map((picture) => (
                <Small
                  key={picture.id}
                  type="button"
                  aria-label={`Lay on ${picture.name}`}
                  title={`Lay on ${picture.name}`}
                  draggable
                  onDragStart={(event) => carryPicture(event.dataTransfer, picture)}
                  onClick={() => layOn(desk, picture)}
                >
                  <img src={thumbnailUrl(picture.id)} alt="" draggable={false} />
                </Small>
              ))}
        </Few>
        <SavedNote />
      </Bar>
      {open ? (
        <Suspense>
          <OpenShelf
            pictures={pictures}
            isLoading={shelf.isPending}
            trouble={shelf.error?.message ?? null}
          />
        </Suspense>
      ) : null}
    </Drawer>
  );
}

function SavedNote(): ReactElement {
  const waiting = useProject((project) => project.queued);
  const held = useProject((project) => project.held);
  const parked = useProject((project) => project.parked);
  const listening = useNotices((notices) => notices.listening);
  const isFinding = useFinding((finding) => finding.asked > 0);
  const count = waiting > 0 ? `${sayCount(waiting, "change")} waiting here` : "nothing is lost";
  if (parked) return <strong role="status">Not saved, {count}</strong>;
  if (held) return <strong role="status">{`${held.replace(/\.$/, "")}, ${count}`}</strong>;
  if (!listening) return <strong role="status">Connection lost, {count}</strong>;
  if (waiting > 0) return <Soft role="status">Saving…</Soft>;
  return <Soft role="status">{isFinding ? "Working it out…" : "All saved"}</Soft>;
}
