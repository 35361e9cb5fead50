/** One project on the wall, as a print. */

import { NEW_PROJECT } from "@generated/limits";
import { useQueryClient } from "@tanstack/react-query";
import { lazy, type ReactElement, Suspense, useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { previewUrl, removeProject, renameProject } from "@/api/calls";
import type { ProjectCard } from "@/api/types";
import { lowered } from "@/model/plans";
import { sayCount, sayWhen } from "@/model/wording";
import { useMessages } from "@/state/messages";
import { color, font } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { NameField } from "@/ui/NameField";
import { Tick } from "@/ui/Tick";
import { useVersionActions } from "@/work/useVersions";

const Item = styled.li`
  break-inside: avoid;
  padding-bottom: 26px;
`;

/** So many sheets, each a little lower and further to the right, each with an edge. */
const behind = (sheets: number) =>
  Array.from({ length: sheets }, (_, sheet) => (sheet + 1) * 5)
    .map((off) => `${off}px ${off}px 0 -1px var(--print), ${off}px ${off}px 0 ${color.rule}`)
    .join(", ");

const Paper = styled(Link)`
  position: relative;
  display: block;
  padding: 7px;
  background: var(--print);
  box-shadow: 0 1px 3px rgb(0 0 0 / 26%);

  &:hover {
    box-shadow: 0 3px 12px rgb(0 0 0 / 30%);
  }

  &[data-chosen="true"] {
    outline: 3px solid ${color.on};
    outline-offset: 3px;
  }

  /* Its versions lie behind it, as far as there is room. */
  &[data-behind="1"],
  &[data-behind="1"]:hover {
    box-shadow: ${behind(1)};
  }

  &[data-behind="2"],
  &[data-behind="2"]:hover {
    box-shadow: ${behind(2)};
  }

  &[data-behind="3"],
  &[data-behind="3"]:hover {
    box-shadow: ${behind(3)};
  }

  img {
    display: block;
    width: 100%;
    background: radial-gradient(#a9a59c 1px, #eceae5 1.2px) 0 0 / 9px 9px;
  }
`;

const Caption = styled.div`
  display: flex;
  align-items: baseline;
  gap: 6px;
  margin-top: 10px;
`;

const Name = styled.h2`
  flex: 1;
  min-width: 0;
  font-family: ${font.name};
  font-size: 15px;
  font-weight: 700;

  a {
    color: inherit;
    text-decoration: none;
  }
`;

const When = styled.p`
  color: ${color.softInk};
  font-family: ${font.reading};
  font-size: 13.5px;
`;

// The wall shows its prints without waiting for menus.
const ActionMenu = lazy(async () => ({
  default: (await import("@/ui/ActionMenu")).ActionMenu,
}));

const MakePlan = lazy(async () => ({
  default: (await import("@/features/plan/MakePlan")).MakePlan,
}));

const PRINT_WIDTH = 600;
const MOST_BEHIND = 3;

interface PrintProps {
  readonly card: ProjectCard;
  /** Whether it is among those that are chosen; null where nothing is chosen just now. */
  readonly isChosen: boolean | null;
  onChoose(isChosen: boolean): void;
}

export function Print({ card, isChosen, onChoose }: PrintProps): ReactElement {
  const [renaming, setRenaming] = useState(false);
  const [making, setMaking] = useState(false);
  const { rename, takeDown } = usePrintActions(card);
  const { copy } = useVersionActions(card.id);
  const navigate = useNavigate();
  const address = `/desk/${card.id}`;
  const versions = `/versions/${card.id}`;
  const plan = card.plan?.name;
  const compare = { label: "Compare its versions", run: () => void navigate(versions) };
  const deeds = [
    { label: "Rename", run: () => setRenaming(true) },
    { label: "Finish it", run: () => void navigate(`/finish/${card.id}`) },
    { label: "Hang a copy beside it", run: () => copy(null) },
    ...(card.versions.length > 0 ? [compare] : []),
    ...(plan
      ? [{ label: "The same with other photos", run: () => void navigate(`/plan/${plan}`) }]
      : []),
    { label: "Make a plan of it…", run: () => setMaking(true) },
    { label: "Take off the wall", run: takeDown },
  ];
  return (
    <Item>
      <Paper
        to={address}
        data-behind={Math.min(card.versions.length, MOST_BEHIND)}
        data-chosen={isChosen}
        tabIndex={-1}
        aria-hidden="true"
        onClick={(event) => {
          if (isChosen === null) return;
          event.preventDefault();
          onChoose(!isChosen);
        }}
      >
        <img
          src={previewUrl(card.id, card.head, PRINT_WIDTH)}
          alt=""
          width={card.width}
          height={card.height}
          style={{ height: "auto" }}
        />
      </Paper>
      <Caption>
        {isChosen === null ? null : (
          <Tick aria-label={`Choose ${card.name}`} isSelected={isChosen} onChange={onChoose} />
        )}
        <Name>
          {renaming ? (
            <NameField
              longest={NEW_PROJECT.name.maxLength}
              label={`Name of ${card.name}`}
              name={card.name}
              onName={rename}
              onLeave={() => setRenaming(false)}
            />
          ) : (
            <Link to={address}>{card.name}</Link>
          )}
        </Name>
        <Suspense fallback={<QuietButton isDisabled>More</QuietButton>}>
          <ActionMenu word="More" label={`More for ${card.name}`} deeds={deeds} />
        </Suspense>
      </Caption>
      {making ? (
        <Suspense>
          <MakePlan card={card} onClose={() => setMaking(false)} />
        </Suspense>
      ) : null}
      <When>
        {card.plan ? `${lowered(card.plan.title)}, ` : ""}
        {sayCount(card.layers, "layer")}
        {card.versions.length > 0 ? (
          <>
            , <Link to={versions}>{sayCount(card.versions.length, "version")}</Link>
          </>
        ) : null}
        {card.ways > 1 ? `, ${sayCount(card.ways, "way")}` : ""}, {sayWhen(card.changed_at)}
      </When>
    </Item>
  );
}

function usePrintActions(card: ProjectCard) {
  const client = useQueryClient();
  const { say, warn } = useMessages.getState();
  const then = (work: Promise<void>, done?: () => void) => {
    work.then(
      () => {
        void client.invalidateQueries({ queryKey: ["wall"] });
        done?.();
      },
      (error: Error) => warn(error.message),
    );
  };
  return {
    rename: (name: string) => then(renameProject(card.id, name)),
    takeDown: () =>
      then(removeProject(card.id, true), () =>
        say(`${card.name} is off the wall.`, {
          label: "Put it back",
          run: () => then(removeProject(card.id, false)),
        }),
      ),
  };
}
