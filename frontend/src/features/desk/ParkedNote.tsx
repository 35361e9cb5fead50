/** Says that a change cannot be saved, and what can be done about it. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { sayCount } from "@/model/wording";
import { useProject } from "@/state/project";
import { color } from "@/theme/tokens";
import { PlainButton, QuietButton } from "@/ui/Button";
import { useDeskActions } from "@/work/DeskContext";

const Strip = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
  padding: 8px 16px;
  border-bottom: 1px solid ${color.rule};
  border-left: 4px solid ${color.trouble};
  background: ${color.sheet};
`;

const Words = styled.p`
  flex: 1 1 380px;
`;

export function ParkedNote({ onSaveCopy }: { onSaveCopy(): void }): ReactElement | null {
  const desk = useDeskActions();
  const reason = useProject((project) => project.parked);
  const after = useProject((project) => project.queued) - 1;
  if (reason === null) return null;
  const rest = after > 0 ? ` ${sayCount(after, "later change")} waiting behind it.` : "";
  return (
    <Strip role="alert">
      <Words>
        <strong>A change could not be saved.</strong> Everything before it is saved.{rest}{" "}
        <small>{reason}</small>
      </Words>
      <PlainButton onPress={desk.tryAgain}>Try again</PlainButton>
      <QuietButton onPress={onSaveCopy}>Save a copy…</QuietButton>
      <QuietButton onPress={desk.leaveOut}>Leave this change out</QuietButton>
    </Strip>
  );
}
