/** What can be done with a plan itself: its file, and for one's own, its end. */

import { useQueryClient } from "@tanstack/react-query";
import type { ReactElement } from "react";
import { useNavigate } from "react-router";
import { bringInPlan, fetchPlanFile, planFileUrl, takePlanAway } from "@/api/calls";
import type { PlanOffer } from "@/model/plans";
import { useMessages } from "@/state/messages";
import { ActionMenu } from "@/ui/ActionMenu";
import { saveFile } from "@/work/useFinish";

export function PlanMenu({ plan }: { readonly plan: PlanOffer }): ReactElement {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { say, warn } = useMessages.getState();
  const changed = () => void client.invalidateQueries({ queryKey: ["plans"] });
  const trouble = (error: Error) => warn(error.message);
  const takeAway = async () => {
    const file = await fetchPlanFile(plan.name);
    await takePlanAway(plan.name);
    changed();
    void navigate("/");
    say(`${plan.title} is gone. Pictures that it made stay.`, {
      label: "Put it back",
      run: () => void bringInPlan(file).then(changed, trouble),
    });
  };
  const save = {
    label: "Save its file",
    run: () => saveFile(planFileUrl(plan.name)),
  };
  const away = { label: "Take the plan away", run: () => void takeAway().catch(trouble) };
  return (
    <ActionMenu
      word="More"
      label={`More for ${plan.title}`}
      deeds={plan.is_own ? [save, away] : [save]}
    />
  );
}
