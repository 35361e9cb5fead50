/** The steps of the plan that a picture was begun from, above its layers. */

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { changeChecklist, fetchChecklist } from "@/api/calls";
import { type Checklist, lowered, raised } from "@/model/plans";
import { useDesk } from "@/state/desk/desk";
import type { Facet } from "@/state/desk/selection";
import { useMessages } from "@/state/messages";
import { useProject } from "@/state/project";
import { useSettled } from "@/state/useSettled";
import { color, font } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { LiveWord } from "@/ui/LiveWord";
import { StepNumber } from "@/ui/StepNumber";

const Box = styled.section`
  padding: 8px 16px 10px;
  border-top: 1px solid ${color.rule};
  background: ${color.sheet};
`;

const Head = styled.div`
  display: flex;
  gap: 8px;
  align-items: baseline;
  justify-content: space-between;
  font-size: 12.5px;
`;

const Title = styled.h2`
  color: ${color.softInk};
  font-family: ${font.control};
  font-size: 12.5px;
  font-weight: 400;
`;

const List = styled.ol`
  display: grid;
  gap: 7px;
  margin-top: 6px;
`;

const Item = styled.li`
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) auto;
  gap: 0 8px;
  align-items: start;

  h3 {
    font-family: ${font.name};
    font-size: 14px;
    font-weight: 650;
    line-height: 20px;
  }

  p {
    grid-column: 2 / -1;
    font-family: ${font.reading};
    font-size: 14px;
    line-height: 1.4;
  }

  &[data-state="ignored"] h3 {
    color: ${color.softInk};
    font-weight: 400;
    text-decoration: line-through;
  }

  &[data-state="touched"] h3 {
    color: ${color.softInk};
    font-weight: 400;
  }
`;

const Small = styled(QuietButton)`
  padding: 0 4px;
  font-size: 12.5px;
  line-height: 20px;
`;

type Step = Checklist["steps"][number];

/** The service renders small pictures for its advice: not for every move of a hand. */
const SETTLES_MS = 900;

export function PlanSteps(): ReactElement | null {
  const id = useProject(({ known }) => (known?.plan ? known.id : null));
  const changes = useProject(({ known }) => known?.changes ?? 0);
  const at = useSettled(changes, SETTLES_MS);
  const checklist = useQuery({
    queryKey: ["checklist", id, at],
    queryFn: () => fetchChecklist(id ?? ""),
    enabled: id !== null,
    placeholderData: keepPreviousData,
  });
  if (id === null || !checklist.data) return null;
  return <Steps id={id} checklist={checklist.data} />;
}

interface StepsProps {
  readonly id: string;
  readonly checklist: Checklist;
}

function Steps({ id, checklist }: StepsProps): ReactElement {
  const client = useQueryClient();
  const [chosen, choose] = useState<string | null>(null);
  const { steps, title, is_folded: isFolded, work } = checklist;
  const change = (said: Parameters<typeof changeChecklist>[1]) =>
    changeChecklist(id, said).then(
      () => void client.invalidateQueries({ queryKey: ["checklist", id] }),
      (error: Error) => useMessages.getState().warn(error.message),
    );
  const left = steps.filter(({ state }) => state === "open");
  const shown = steps.find(({ name }) => name === chosen) ?? left[0];
  const done = steps.length - left.length;
  return (
    <Box aria-label={`Steps of ${lowered(title)}`}>
      <Head>
        <Title>
          {title}: {left.length === 0 ? "all looked at" : `${done} of ${steps.length} looked at`}
        </Title>
        <Small aria-expanded={!isFolded} onPress={() => void change({ is_folded: !isFolded })}>
          {isFolded ? "Show steps" : "Fold"}
        </Small>
      </Head>
      {work && !isFolded ? (
        <p role="status">The outline is still being found. It comes by itself.</p>
      ) : null}
      {isFolded ? null : (
        <List>
          {steps.map((step, place) => (
            <StepItem
              key={step.name}
              step={step}
              place={place}
              isShown={step === shown}
              onShow={() => choose(step.name)}
              onIgnore={(ignored) => void change({ ignored: { [step.name]: ignored } })}
            />
          ))}
        </List>
      )}
    </Box>
  );
}

interface StepItemProps {
  readonly step: Step;
  readonly place: number;
  readonly isShown: boolean;
  onShow(): void;
  onIgnore(ignored: boolean): void;
}

function StepItem({ step, place, isShown, onShow, onIgnore }: StepItemProps): ReactElement {
  const isTouched = step.state === "touched";
  const isIgnored = step.state === "ignored";
  return (
    <Item data-state={step.state}>
      <StepNumber data-done={isTouched} aria-hidden="true">
        {isTouched ? "✓" : place + 1}
      </StepNumber>
      <h3>
        {isShown ? (
          step.question
        ) : (
          <LiveWord isName label={`${step.question} ${sayState(step)}`} onPress={onShow}>
            {step.question}
          </LiveWord>
        )}
      </h3>
      {isTouched ? (
        <span />
      ) : (
        <Small
          aria-label={`${isIgnored ? "Bring back" : "Skip"}: ${step.question}`}
          onPress={() => onIgnore(!isIgnored)}
        >
          {isIgnored ? "bring back" : "skip"}
        </Small>
      )}
      {isShown ? (
        <p>
          {step.says ?? step.advice} <ToLayer step={step} />
        </p>
      ) : null}
    </Item>
  );
}

function sayState({ state }: Step): string {
  if (state === "touched") return "looked at";
  return state === "ignored" ? "skipped" : "not looked at yet";
}

/** Leads to the layer and the facet that a step is about. */
function ToLayer({ step }: { readonly step: Step }): ReactElement | null {
  const { layer_id: layer, facet, link } = step;
  if (layer === null) return <>Its layer is gone.</>;
  return (
    <LiveWord onPress={() => useDesk.getState().actions.open(layer, facet as Facet)}>
      {raised(link)}
    </LiveWord>
  );
}
