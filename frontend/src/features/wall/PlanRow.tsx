/** Kinds of pictures that people know, as small finished examples. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactElement, useState } from "react";
import { FileTrigger } from "react-aria-components";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { bringInPlan, fetchPlans, planExampleUrl } from "@/api/calls";
import type { PlanOffer } from "@/model/plans";
import { sayNumber } from "@/model/plans";
import { useMessages } from "@/state/messages";
import { color, font } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { LiveWord } from "@/ui/LiveWord";
import { Word } from "@/ui/Word";

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

/** As many as there is room for beside one another, by the least width of the page. */
const BESIDE = [
  [2, 0],
  [3, 650],
  [4, 800],
  [5, 950],
  [6, 1110],
  [7, 1260],
] as const;

const OneRow = styled(Row)`
  ${BESIDE.map(
    ([count, width]) => `
      @media (min-width: ${width}px) {
        grid-template-columns: repeat(${count}, minmax(0, 1fr));

        li:nth-child(-n + ${count}) {
          display: block;
        }
      }
    `,
  ).join("")}

  li {
    display: none;
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

const Below = styled.p`
  margin-top: 10px;
  font-family: ${font.reading};
  font-size: 15px;
`;

const Own = styled.span`
  a {
    color: ${color.live};
    text-decoration-color: ${color.liveRule};
    text-underline-offset: 4px;
  }
`;

const MOST_SOURCES = 3;

interface PlanRowProps {
  /** Nothing hangs on the wall yet: the plans are the page. */
  readonly isPage: boolean;
}

export function PlanRow({ isPage }: PlanRowProps): ReactElement | null {
  const plans = useQuery({ queryKey: ["plans"], queryFn: fetchPlans, staleTime: Infinity });
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
  if (plans.data?.length === 0) return null;
  return <Offers offers={plans.data ?? []} isPage={isPage} />;
}

interface OffersProps extends PlanRowProps {
  readonly offers: readonly PlanOffer[];
}

function Offers({ offers, isPage }: OffersProps): ReactElement {
  const [isOpen, open] = useState(false);
  const shipped = offers.filter(({ is_own }) => !is_own);
  const own = offers.filter(({ is_own }) => is_own);
  const List = isPage || isOpen ? Row : OneRow;
  return (
    <Band aria-label="A kind of picture you know">
      <Title>Or a kind of picture you know</Title>
      <div>
        <List aria-busy={offers.length === 0}>
          {shipped.map((plan) => (
            <PlanExample key={plan.name} plan={plan} />
          ))}
        </List>
        <Below>
          {isPage ? null : (
            <>
              <LiveWord isExpanded={isOpen} onPress={() => open(!isOpen)}>
                {isOpen ? "fewer" : `all ${sayNumber(shipped.length)}`}
              </LiveWord>
              ,{" "}
            </>
          )}
          {own.length > 0 ? `and ${sayNumber(own.length)} of your own: ` : "or "}
          {own.map(({ name, title }) => (
            <Own key={name}>
              <Link to={`/plan/${name}`}>{title}</Link> ·{" "}
            </Own>
          ))}
          <BringPlanIn />
        </Below>
      </div>
    </Band>
  );
}

/** Brings a plan's file in, from wherever it was made. */
function BringPlanIn(): ReactElement {
  const client = useQueryClient();
  const navigate = useNavigate();
  const bring = (file: File) =>
    bringInPlan(file).then(
      ({ name }) => {
        void client.invalidateQueries({ queryKey: ["plans"] });
        void navigate(`/plan/${name}`);
      },
      (error: Error) => useMessages.getState().warn(error.message),
    );
  return (
    <FileTrigger
      acceptedFileTypes={[".json", "application/json"]}
      onSelect={(files) => {
        const file = files?.[0];
        if (file) void bring(file);
      }}
    >
      <Word>bring a plan in…</Word>
    </FileTrigger>
  );
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
