/** Files on their way in, each with its progress or the reason why it was refused. */

import { X } from "lucide-react";
import type { ReactElement } from "react";
import styled from "styled-components";
import { type Arrival, useArrivals } from "@/state/arrivals";
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
      {arrivals.map((arrival) => (
        <ArrivalItem key={arrival.id} arrival={arrival} />
      ))}
    </List>
  );
}

function ArrivalItem({ arrival }: { readonly arrival: Arrival }): ReactElement {
  const remove = useArrivals((state) => state.remove);
  if (arrival.stage === "refused") {
    return (
      <Item role="alert">
        <Name>{arrival.name}</Name>
        <Reason>{arrival.reason}</Reason>
        <QuietButton aria-label={`Dismiss ${arrival.name}`} onPress={() => remove(arrival.id)}>
          <X size={14} aria-hidden="true" />
        </QuietButton>
      </Item>
    );
  }
  return (
    <Item>
      <Name>{arrival.name}</Name>
      <span>{arrival.stage === "sending" ? "coming in" : "being read"}</span>
      <Progress label={`${arrival.name} on its way in`} share={arrival.progress} />
      <QuietButton onPress={arrival.stop}>Stop</QuietButton>
    </Item>
  );
}
