/** Fetches the plan that an address names, for the pages of plans. */

import { useQuery } from "@tanstack/react-query";
import { Fragment, type ReactElement } from "react";
import { Link, useParams } from "react-router";
import { fetchPlans } from "@/api/calls";
import type { PlanOffer } from "@/model/plans";
import { PlainButton } from "@/ui/Button";
import { PageSays } from "@/ui/PageHead";

interface WithPlanProps {
  children(plan: PlanOffer): ReactElement;
}

export function WithPlan({ children }: WithPlanProps): ReactElement {
  const { planName = "" } = useParams();
  const plans = useQuery({ queryKey: ["plans"], queryFn: fetchPlans });
  if (plans.isPending) return <PageSays aria-busy="true">Fetching the plan…</PageSays>;
  const plan = plans.data?.find(({ name }) => name === planName);
  if (plan) return <Fragment key={plan.name}>{children(plan)}</Fragment>;
  return (
    <PageSays>
      <p role="alert">{plans.error?.message ?? "There is no plan of that name."}</p>
      {plans.error ? (
        <PlainButton onPress={() => void plans.refetch()}>Try again</PlainButton>
      ) : null}
      <Link to="/">Back to the wall</Link>
    </PageSays>
  );
}
