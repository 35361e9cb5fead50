/** The wall: every project as a print at its true proportions, last changed first. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Moon, Sun } from "lucide-react";
import { lazy, type ReactElement, Suspense, useState } from "react";
import styled from "styled-components";
import { fetchWall } from "@/api/calls";
import type { ProjectCard } from "@/api/types";
import { FinishSeveral } from "@/features/wall/FinishSeveral";
import { PlanRow } from "@/features/wall/PlanRow";
import { Print } from "@/features/wall/Print";
import { useDroppedStart } from "@/features/wall/useStart";
import { useTheme } from "@/features/wall/useTheme";
import { isFound } from "@/model/searching";
import { sayCount } from "@/model/wording";
import { color, font } from "@/theme/tokens";
import { PlainButton, QuietButton } from "@/ui/Button";
import { FindField } from "@/ui/FindField";
import { Arrivals } from "@/work/Arrivals";

const Page = styled.main`
  display: flex;
  flex-direction: column;
  min-height: 100dvh;
`;

const Bar = styled.header`
  display: flex;
  align-items: center;
  gap: 26px;
  height: 62px;
  padding: 0 32px;
  border-bottom: 1px solid ${color.rule};
`;

const Title = styled.h1`
  font-family: ${font.name};
  font-size: 24px;
  font-weight: 760;
`;

const Count = styled.span`
  margin-left: auto;
  color: ${color.softInk};
`;

const Prints = styled.ul`
  flex: 1;
  columns: 250px;
  column-gap: 40px;
  padding: 28px 36px 40px 32px;
`;

const Says = styled.div`
  display: grid;
  justify-items: start;
  gap: 12px;
  padding: 40px 32px;
  color: ${color.softInk};
  font-family: ${font.reading};
  font-size: 17px;
`;

/** As high as the sentence that comes to stand there. */
const StartSpace = styled.div`
  height: 77px;
  border-bottom: 1px solid ${color.rule};
  background: ${color.sheet};
`;

// The prints need not wait for what chooses the size of a new one.
const StartSentence = lazy(async () => ({
  default: (await import("@/features/wall/StartSentence")).StartSentence,
}));

export function Wall(): ReactElement {
  const wall = useQuery({ queryKey: ["wall"], queryFn: fetchWall });
  const [wanted, setWanted] = useState("");
  const [chosen, choose] = useState<readonly string[] | null>(null);
  useDroppedStart();
  const cards = wall.data ?? [];
  const found = cards.filter((card) => isFound(wanted, [card.name, ...card.versions]));
  return (
    <Page>
      <Bar>
        <Title>The wall</Title>
        <FindField
          label="Find a picture you made"
          width={290}
          value={wanted}
          onChange={setWanted}
        />
        <Count role="status">{wall.data ? sayAll(cards) : ""}</Count>
        {cards.length > 0 ? (
          <QuietButton onPress={() => choose(chosen ? null : [])}>Finish several…</QuietButton>
        ) : null}
        <ThemeSwitch />
      </Bar>
      <Suspense fallback={<StartSpace />}>
        <StartSentence />
      </Suspense>
      <PlanRow isPage={wall.isSuccess && cards.length === 0} />
      <Arrivals />
      <WallState
        isLoading={wall.isPending}
        trouble={wall.error?.message ?? null}
        isBare={wall.isSuccess && cards.length === 0}
        missed={wall.isSuccess && cards.length > 0 && found.length === 0 ? wanted : null}
      />
      <Prints aria-label="Your pictures">
        {found.map((card) => (
          <Print
            key={card.id}
            card={card}
            isChosen={chosen?.includes(card.id) ?? null}
            onChoose={(isOn) => choose(toggled(chosen ?? [], card.id, isOn))}
          />
        ))}
      </Prints>
      {chosen ? (
        <FinishSeveral
          chosen={chosen}
          onAll={() => choose(found.map(({ id }) => id))}
          onLeave={() => choose(null)}
        />
      ) : null}
    </Page>
  );
}

function toggled(chosen: readonly string[], id: string, isOn: boolean): readonly string[] {
  const others = chosen.filter((one) => one !== id);
  return isOn ? [...others, id] : others;
}

function sayAll(cards: readonly ProjectCard[]): string {
  const versions = cards.reduce((count, card) => count + card.versions.length, 0);
  const pictures = sayCount(cards.length, "picture");
  return versions > 0 ? `${pictures}, ${sayCount(versions, "version")}` : pictures;
}

interface WallStateProps {
  readonly isLoading: boolean;
  readonly trouble: string | null;
  readonly isBare: boolean;
  readonly missed: string | null;
}

function WallState({ isLoading, trouble, isBare, missed }: WallStateProps): ReactElement | null {
  const client = useQueryClient();
  if (trouble) {
    return (
      <Says role="alert">
        <p>{trouble}</p>
        <PlainButton onPress={() => void client.invalidateQueries()}>Try again</PlainButton>
      </Says>
    );
  }
  if (isLoading) return <Says aria-busy="true">Hanging the pictures…</Says>;
  if (missed) return <Says>No picture of yours is called “{missed}”.</Says>;
  if (!isBare) return null;
  return (
    <Says>
      Nothing hangs here yet. Begin with one of the kinds above, with the sentence, or drop a photo
      anywhere on this page.
    </Says>
  );
}

function ThemeSwitch(): ReactElement {
  const [theme, setTheme] = useTheme();
  const other = theme === "day" ? "night" : "day";
  return (
    <QuietButton onPress={() => setTheme(other)}>
      {other === "night" ? (
        <Moon size={15} aria-hidden="true" />
      ) : (
        <Sun size={15} aria-hidden="true" />
      )}
      {other === "night" ? "Night" : "Day"}
    </QuietButton>
  );
}
