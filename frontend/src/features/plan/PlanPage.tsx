/** A plan's page: photos for its slots, what comes of them, and the steps that follow. */

import { type ReactElement, useCallback, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { planExampleUrl } from "@/api/calls";
import { PlanMenu } from "@/features/plan/PlanMenu";
import { SlotChooser } from "@/features/plan/SlotChooser";
import { SlotItem } from "@/features/plan/SlotItem";
import {
  type Begin,
  type Seen,
  useBeginFromPlan,
  useFilling,
  useSeen,
} from "@/features/plan/usePlan";
import { WithPlan } from "@/features/plan/WithPlan";
import { WordsItem } from "@/features/plan/WordsItem";
import {
  exchangeable,
  exchanged,
  type Filling,
  lowered,
  type Place,
  type PlanLook,
  type PlanOffer,
  photosIn,
  piecesOf,
  poured,
  raised,
  sayNumber,
  saySheet,
} from "@/model/plans";
import type { Facet } from "@/state/desk/selection";
import { color, font } from "@/theme/tokens";
import { PlainButton, StrongButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { PageHead, PageSentence, PageTitle } from "@/ui/PageHead";
import { StepNumber } from "@/ui/StepNumber";
import { ToWall } from "@/ui/ToWall";
import { Arrivals } from "@/work/Arrivals";
import { useBringIn } from "@/work/useBringIn";
import { useDroppedFiles } from "@/work/useDroppedFiles";

const Page = styled.main`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100dvh;

  @media (max-width: 820px) {
    height: auto;
  }
`;

const Middle = styled.div`
  display: grid;
  grid-template-columns: 420px minmax(0, 1fr);
  min-height: 0;

  @media (max-width: 820px) {
    grid-template-columns: 1fr;
  }
`;

const Put = styled.section`
  min-width: 0;
  overflow: auto;
  padding: 20px 24px 28px;
  border-right: 1px solid ${color.rule};
`;

const Says = styled.p`
  margin-bottom: 18px;
  font-family: ${font.reading};
  font-size: 20px;
  line-height: 1.45;
`;

const Slots = styled.ul`
  display: grid;
  gap: 20px;
`;

const Closing = styled.p`
  margin-top: 20px;
  padding-top: 14px;
  border-top: 1px solid ${color.rule};
  font-family: ${font.reading};
  font-size: 15px;
  line-height: 1.5;

  a {
    color: ${color.live};
    text-decoration-color: ${color.liveRule};
    text-underline-offset: 4px;
  }
`;

const Choosing = styled.div`
  margin-top: 16px;
  font-family: ${font.reading};
  font-size: 15.5px;
`;

const Work = styled.div`
  display: grid;
  grid-template-rows: minmax(260px, 1fr) auto;
  min-width: 0;
  min-height: 0;
`;

const Stage = styled.section`
  position: relative;
  display: grid;
  place-items: center;
  min-height: 0;
  padding: 44px 28px 28px;
  background: #8b8b8b;

  img {
    max-width: 100%;
    max-height: 100%;
    min-height: 0;
    background: radial-gradient(#a9a59c 1px, #eceae5 1.2px) 0 0 / 9px 9px;
    box-shadow: 0 2px 10px rgb(0 0 0 / 30%);
    object-fit: contain;
  }

  img[data-example="true"] {
    max-height: 62%;
    opacity: 0.55;
  }
`;

const StageNote = styled.div`
  position: absolute;
  top: 12px;
  left: 14px;
  display: flex;
  gap: 12px;
  align-items: center;
  max-width: calc(100% - 28px);
  padding: 5px 12px;
  border-radius: 2px;
  background: ${color.stageNote};
  color: ${color.stageNoteInk};
  font-family: ${font.reading};
`;

const Steps = styled.ol`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 16px 24px;
  padding: 16px 22px 20px;
  border-top: 1px solid ${color.rule};
`;

const Step = styled.li`
  h2 {
    display: flex;
    gap: 8px;
    align-items: baseline;
    font-family: ${font.name};
    font-size: 14px;
    font-weight: 680;
  }

  p {
    margin-top: 4px;
    color: ${color.softInk};
    font-family: ${font.reading};
    font-size: 14px;
    line-height: 1.45;
  }
`;

export function PlanPage(): ReactElement {
  return <WithPlan>{(plan) => <OpenPlan plan={plan} />}</WithPlan>;
}

function OpenPlan({ plan }: { readonly plan: PlanOffer }): ReactElement {
  const [filling, change] = useFilling(plan);
  const seen = useSeen(plan, filling);
  const begin = useBeginFromPlan(plan, filling);
  usePoured(plan, change);
  const [place, choose] = useState<Place | null>(null);
  const { look } = seen;
  const lacking = plan.slots.filter(
    ({ name, needed, least }) => needed && photosIn(filling, name).length < least,
  );
  const both = exchangeable(plan, filling);
  return (
    <Page>
      <PageHead>
        <ToWall />
        <PageTitle>{plan.title}</PageTitle>
        <PageSentence>
          {look ? saySheet(look.width, look.height, plan.sheet.ppi) : null}
        </PageSentence>
        {both.length > 0 ? (
          <PlainButton onPress={() => change((now) => exchanged(plan, now))}>
            {both.length > 1 ? "Exchange the two" : "Turn the order round"}
          </PlainButton>
        ) : null}
        <PlanMenu plan={plan} />
        <StrongButton
          isDisabled={lacking.length > 0 || begin.isBeginning}
          onPress={() => begin.begin()}
        >
          Go on at the desk
        </StrongButton>
      </PageHead>
      <Middle>
        <Put aria-label="What it is made of">
          <Sentence plan={plan} />
          <Arrivals />
          <Slots>
            {plan.slots.map((slot) => (
              <SlotItem
                key={slot.name}
                slot={slot}
                filling={filling}
                look={look}
                onChange={change}
                onChoose={choose}
              />
            ))}
            {plan.words.map((words) => (
              <WordsItem key={words.name} words={words} filling={filling} onChange={change} />
            ))}
          </Slots>
          {plan.choices.map(({ name, title, options }) => (
            <Choosing key={name}>
              {title}:{" "}
              <LiveSelect
                label={title}
                value={filling.choices[name] ?? options[0]?.name ?? ""}
                choices={options.map((way) => ({ id: way.name, label: lowered(way.title) }))}
                onChange={(way) =>
                  change((now) => ({ ...now, choices: { ...now.choices, [name]: way } }))
                }
              />
              .
            </Choosing>
          ))}
          <SlotChooser plan={plan} place={place} onPlace={choose} onChange={change} />
          <Closing>
            {sayClosing(plan, look)} Or make{" "}
            <Link to={`/plan/${plan.name}/many`}>many at once</Link>.
          </Closing>
        </Put>
        <Work>
          <Picture plan={plan} filling={filling} seen={seen} lacking={lacking} />
          <StepList plan={plan} look={look} isWhole={lacking.length === 0} begin={begin} />
        </Work>
      </Middle>
    </Page>
  );
}

function sayClosing({ about }: PlanOffer, look: PlanLook | undefined): string {
  const layers = look?.layers ?? 0;
  if (!look || layers === 0 || look.empty.length > 0) return about;
  const made = layers === 1 ? "is one layer" : `are ${sayNumber(layers)} layers`;
  return `Nothing here is fixed: what comes out ${made}, and every word of it can be changed.`;
}

/** Photos that are dropped or pasted anywhere else find the first room there is. */
function usePoured(plan: PlanOffer, change: (change: (filling: Filling) => Filling) => void): void {
  const bringIn = useBringIn();
  const pour = useCallback(
    (files: readonly File[]) => bringIn(files, ({ id }) => change((now) => poured(plan, now, id))),
    [plan, change, bringIn],
  );
  useDroppedFiles(pour);
}

function Sentence({ plan }: { readonly plan: PlanOffer }): ReactElement {
  const lead = (slot: string) => {
    const item = document.getElementById(`slot-${slot}`);
    item?.scrollIntoView({ block: "nearest" });
    item?.querySelector<HTMLElement>("button, input, textarea")?.focus();
  };
  return (
    <Says>
      {piecesOf(plan).map(({ text, slot }, place) =>
        slot === null ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: the sentence never changes
          <span key={place}>{text}</span>
        ) : (
          <LiveWord key={slot} label={`${text}, to its photo`} onPress={() => lead(slot)}>
            {place === 0 ? raised(text) : text}
          </LiveWord>
        ),
      )}
    </Says>
  );
}

interface PictureProps {
  readonly plan: PlanOffer;
  readonly filling: Filling;
  readonly seen: Seen;
  readonly lacking: PlanOffer["slots"];
}

function Picture({ plan, filling, seen, lacking }: PictureProps): ReactElement {
  const isBare =
    plan.slots.length > 0 && plan.slots.every(({ name }) => photosIn(filling, name).length === 0);
  return (
    <Stage aria-label="What comes of it" aria-busy={seen.isFetching}>
      {seen.trouble ? (
        <StageNote role="alert">
          {seen.trouble} <PlainButton onPress={seen.again}>Try again</PlainButton>
        </StageNote>
      ) : (
        <StageNote role="status">{sayState(seen, lacking, isBare)}</StageNote>
      )}
      {isBare ? (
        <img src={planExampleUrl(plan.name)} alt="An example" data-example="true" />
      ) : seen.frame ? (
        <img src={seen.frame} alt={`${plan.title}, as it is by now`} data-frame="" />
      ) : null}
    </Stage>
  );
}

function sayState(seen: Seen, lacking: PlanOffer["slots"], isBare: boolean): string {
  if (isBare) return "This one is made of our photos. Put yours in, and it forms here.";
  const sought = (seen.look?.sought ?? []).filter(({ job }) => job);
  if (sought.some(({ what }) => what === "pair")) return "The two are being lined up…";
  if (sought.length > 1) return `${sought.length} outlines are being found…`;
  if (sought.length === 1) return "The outline is being found…";
  if (lacking.length > 0) return `Still to come: ${lacking.map(({ title }) => title).join(", ")}.`;
  if (seen.isFetching) return "It forms…";
  return "All of it is there.";
}

interface StepListProps {
  readonly plan: PlanOffer;
  readonly look: PlanLook | undefined;
  readonly isWhole: boolean;
  readonly begin: Begin;
}

function StepList({ plan, look, isWhole, begin }: StepListProps): ReactElement {
  return (
    <Steps aria-label="What to look at then">
      {plan.steps.map((step, place) => {
        const said = look?.steps.find(({ name }) => name === step.name);
        const layer = said?.layer_id ?? null;
        return (
          <Step key={step.name}>
            <h2>
              <StepNumber aria-hidden="true">{place + 1}</StepNumber>
              {step.question}
            </h2>
            <p>
              {said?.says ?? step.advice}{" "}
              {isWhole && layer !== null ? (
                <LiveWord
                  label={`${step.question} ${step.link}, at the desk`}
                  onPress={() => begin.begin({ layer, facet: step.facet as Facet })}
                >
                  {raised(step.link)}
                </LiveWord>
              ) : null}
            </p>
          </Step>
        );
      })}
    </Steps>
  );
}
