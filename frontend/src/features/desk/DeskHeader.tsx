/** The head of the desk: name, history, how it is looked at, and Finish. */

import { NEW_PROJECT } from "@generated/limits";
import { CircleHelp } from "lucide-react";
import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { ViewControls } from "@/features/desk/ViewControls";
import { Ruler } from "@/features/ruler/Ruler";
import { MomentName } from "@/features/versions/MomentName";
import { useMessages } from "@/state/messages";
import { useProject } from "@/state/project";
import { color, font } from "@/theme/tokens";
import { QuietButton, StrongButton } from "@/ui/Button";
import { NameField } from "@/ui/NameField";
import { ToWall } from "@/ui/ToWall";
import { useDeskActions } from "@/work/DeskContext";

const Bar = styled.header`
  display: flex;
  align-items: center;
  gap: 14px;
  height: 54px;
  padding: 0 16px 0 10px;
  border-bottom: 1px solid ${color.rule};
  background: ${color.paper};
`;

const Title = styled.h1`
  flex: none;
  max-width: 240px;

  button {
    display: block;
    overflow: hidden;
    max-width: 100%;
    padding: 2px 4px;
    border: 0;
    background: none;
    font-family: ${font.name};
    font-size: 17px;
    font-weight: 700;
    text-overflow: ellipsis;
    white-space: nowrap;
    cursor: text;
  }
`;

interface DeskHeaderProps {
  onFinish(): void;
  onShowMap(): void;
}

export function DeskHeader({ onFinish, onShowMap }: DeskHeaderProps): ReactElement {
  return (
    <Bar>
      <ToWall />
      <ProjectTitle />
      <MomentName />
      <Ruler />
      <ViewControls />
      <QuietButton aria-label="Keyboard map" onPress={onShowMap}>
        <CircleHelp size={17} aria-hidden="true" />
      </QuietButton>
      <StrongButton onPress={onFinish}>Finish…</StrongButton>
    </Bar>
  );
}

function ProjectTitle(): ReactElement {
  const desk = useDeskActions();
  const known = useProject((project) => project.known);
  const warn = useMessages((messages) => messages.warn);
  const [renaming, setRenaming] = useState(false);
  const name = known?.name ?? "";
  const rename = (next: string) => {
    desk.rename(next).catch((error: Error) => warn(error.message));
  };
  return (
    <Title>
      {renaming ? (
        <NameField
          longest={NEW_PROJECT.name.maxLength}
          label="Name of the picture"
          name={name}
          onName={rename}
          onLeave={() => setRenaming(false)}
        />
      ) : (
        <button type="button" title="Rename" onClick={() => setRenaming(true)}>
          {name}
        </button>
      )}
    </Title>
  );
}
