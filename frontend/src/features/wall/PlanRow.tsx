/** Kinds of pictures that people know, as small finished examples. */

import { useQuery } from "@tanstack/react-query";
import { type ReactElement, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { fetchPlans, planExampleUrl } from "@/api/calls";
import type { PlanOffer } from "@/model/plans";
import { sayNumber } from "@/model/plans";
import { color, font } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { LiveWord } from "@/ui/LiveWord";

const Band = styled.section`
  display: grid;
  grid-template-columns: 136px minmax(0, 1fr);
  align-items: start;
  padding: 2px 32px 14px;
  border-bottom: 1px solid ${color.rule};
  background: ${color.sheet};
`;

const Title = styled.h2`
  padding-top: 4px;
  font-family: ${font.name};
  font-size: 15px;
  font-weight: 680;
  line-height: 1.3;
`;

const Row = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(134px, 1fr));
  gap: 14px 20px;
`;

/** As many as there is room for beside one another. */
const OneRow = styled(Row)`
  overflow: hidden;
  grid-template-rows: auto;
  grid-auto-rows: 0;
  row-gap: 0;
  margin: -6px;
  padding: 6px;

  li:nth-child(n + 8) {
    visibility: hidden;
  }
`;

const Example = styled(Link)`
  display: block;
  color: inherit;
  font-family: ${font.reading};
  font-size: 14.5px;
  line-height: 1.3;
  text-decoration: none;

  &:hover > span:last-child,
  &:focus-visible > span:last-child {
    text-decoration: underline;
    text-underline-offset: 3px;
  }

  &:hover [data-sources],
  &:focus-visible [data-sources] {
    opacity: 1;
  }
`;

const Paper = styled.span`
  position: relative;
  display: block;
  margin-bottom: 8px;
  padding: 5px;
  background: var(--print);
  box-shadow: 0 1px 3px rgb(0 0 0 / 24%);

  > img {
    display: block;
    width: 100%;
    height: 108px;
    object-fit: cover;
    object-position: 50% 30%;
  }
`;

/** The photos that it was made of. */
const Sources = styled.span`
  position: absolute;
  bottom: -6px;
  left: 8px;
  display: flex;
  gap: 4px;
  opacity: 0;

  img {
    width: 34px;
    height: 34px;
    border: 2px solid var(--print);
    box-shadow: 0 1px 3px rgb(0 0 0 / 40%);
    object-fit: cover;
  }

  @media (prefers-reduced-motion: no-preference) {
    transition: opacity 120ms;
  }
`;

const All = styled.p`
  margin-top: 10px;
  font-family: ${font.reading};
  font-size: 15px;
`;

const MOST_SOURCES = 3;

interface PlanRowProps {
  /** Nothing hangs on the wall yet: the plans are the page. */
  readonly isPage: boolean;
}

export function PlanRow({ isPage }: PlanRowProps): ReactElement | null {
  const plans = useQuery({ queryKey: ["plans"], queryFn: fetchPlans, staleTime: Infinity });
  const [isOpen, open] = useState(false);
  const all = isPage || isOpen;
  if (plans.error) {
    return (
      <Band aria-label="A kind of picture you know">
        <span />
        <div role="alert">
          {plans.error.message}{" "}
          <PlainButton onPress={() => void plans.refetch()}>Try again</PlainButton>
        </div>
      </Band>
    );
  }
  const offers = plans.data ?? [];
  if (plans.isSuccess && offers.length === 0) return null;
  const List = all ? Row : OneRow;
  return (
    <Band aria-label="A kind of picture you know">
      <Title>Or a kind of picture you know</Title>
      <div>
        <List aria-busy={plans.isPending}>
          {offers.map((plan) => (
            <PlanExample key={plan.name} plan={plan} />
          ))}
        </List>
        {isPage || offers.length === 0 ? null : (
          <All>
            <LiveWord isExpanded={isOpen} onPress={() => open(!isOpen)}>
              {isOpen ? "fewer" : `all ${saySeveral(offers.length)}`}
            </LiveWord>
          </All>
        )}
      </div>
    </Band>
  );
}

function saySeveral(count: number): string {
  const teens = ["eleven", "twelve", "thirteen", "fourteen", "fifteen", "sixteen", "seventeen"];
  return teens[count - 11] ?? sayNumber(count);
}

function PlanExample({ plan }: { readonly plan: PlanOffer }): ReactElement {
  return (
    <li>
      <Example to={`/plan/${plan.name}`}>
        <Paper>
          <img src={planExampleUrl(plan.name)} alt="" loading="lazy" />
          <Sources data-sources="" aria-hidden="true">
            {plan.shown_with.slice(0, MOST_SOURCES).map((slot) => (
              <img key={slot} src={planExampleUrl(plan.name, slot)} alt="" loading="lazy" />
            ))}
          </Sources>
        </Paper>
        <span>{plan.title}</span>
      </Example>
    </li>
  );
}
