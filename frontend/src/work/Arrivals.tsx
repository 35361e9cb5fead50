/** Files on their way in, each with its progress or the reason why it was refused. */

import { X } from "lucide-react";
import type { ReactElement } from "react";
import styled from "styled-components";
import { type Arrival, onTheirWay, useArrivals } from "@/state/arrivals";
import { color } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { Progress } from "@/ui/Progress";

const List = styled.ul`
  display: grid;
  gap: 2px;
  max-height: 150px;
  overflow: auto;
  border-bottom: 1px solid ${color.rule};
  background: ${color.sheet};

  &:empty {
    display: none;
  }
`;

const Item = styled.li`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 4px 12px 4px 16px;
`;

const Name = styled.strong`
  flex: none;
  overflow: hidden;
  max-width: 260px;
  text-overflow: ellipsis;
  white-space: nowrap;
`;

const Reason = styled.span`
  flex: 1;
  color: ${color.trouble};
`;

export function Arrivals(): ReactElement {
  const arrivals = useArrivals((state) => state.arrivals);
  return (
    <List aria-label="Pictures on their way in">
      <AllOfThem arrivals={arrivals} />
      {arrivals.map((arrival) => (
        <ArrivalItem key={arrival.id} arrival={arrival} />
      ))}
    </List>
  );
}

const STAGE_WORDS = {
  waiting: "waits for its turn",
  sending: "coming in",
  reading: "being read",
  refused: "refused",
} as const;

/** More than so many are told of together, too. */
const FEW = 2;

function AllOfThem({ arrivals }: { readonly arrivals: readonly Arrival[] }): ReactElement | null {
  const come = useArrivals((state) => state.come);
  const coming = onTheirWay(arrivals);
  if (coming.length + come <= FEW || coming.length === 0) return null;
  const all = coming.length + come;
  const share = (come + coming.reduce((sum, { progress }) => sum + progress, 0)) / all;
  return (
    <Item>
      <Name>All together</Name>
      <span>
        {come} of {all} are in
      </span>
      <Progress label="All pictures on their way in" share={share} />
      <QuietButton onPress={() => coming.map(({ stop }) => stop())}>Stop all</QuietButton>
    </Item>
  );
}

function ArrivalItem({ arrival }: { readonly arrival: Arrival }): ReactElement {
  const remove = useArrivals((state) => state.remove);
  if (arrival.stage === "refused") {
    return (
      <Item role="alert">
        <Name>{arrival.name}</Name>
        <Reason>{arrival.reason}</Reason>
        {arrival.again ? <QuietButton onPress={arrival.again}>Try again</QuietButton> : null}
        <QuietButton aria-label={`Dismiss ${arrival.name}`} onPress={() => remove(arrival.id)}>
          <X size={14} aria-hidden="true" />
        </QuietButton>
      </Item>
    );
  }
  return (
    <Item>
      <Name>{arrival.name}</Name>
      <span>{STAGE_WORDS[arrival.stage]}</span>
      <Progress label={`${arrival.name} on its way in`} share={arrival.progress} />
      <QuietButton onPress={arrival.stop}>Stop</QuietButton>
    </Item>
  );
}
