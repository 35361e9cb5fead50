/** Finish: for what the picture is, how its file shall be, and how that will look. */

import { useQuery } from "@tanstack/react-query";
import { ChevronLeft } from "lucide-react";
import { type ReactElement, useState } from "react";
import { Link, useLocation, useParams } from "react-router";
import styled from "styled-components";
import { fetchProject } from "@/api/calls";
import { FileNumbers } from "@/features/finish/FileNumbers";
import { FileSentence, type Opened } from "@/features/finish/FileSentence";
import { FileStage } from "@/features/finish/FileStage";
import { FinishActions } from "@/features/finish/FinishActions";
import { MarginNotes } from "@/features/finish/MarginNotes";
import { Purposes } from "@/features/finish/Purposes";
import { SettingsBelow } from "@/features/finish/SettingsBelow";
import { type Finishing, useFinishing } from "@/features/finish/useFinishing";
import { GROUNDS, type Ground, groundFor, type Seeing } from "@/model/fileGrounds";
import { color, font } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { useFinish } from "@/work/useFinish";

const Page = styled.main`
  display: grid;
  grid-template-rows: 54px minmax(0, 1fr);
  height: 100dvh;
`;

const Bar = styled.header`
  display: flex;
  gap: 16px;
  align-items: center;
  padding: 0 16px 0 10px;
  border-bottom: 1px solid ${color.rule};
`;

const Back = styled(Link)`
  display: flex;
  align-items: center;
  color: ${color.softInk};
  text-decoration: none;

  &:hover {
    color: ${color.ink};
  }
`;

const Title = styled.h1`
  overflow: hidden;
  max-width: 320px;
  font-family: ${font.name};
  font-size: 17px;
  font-weight: 700;
  text-overflow: ellipsis;
  white-space: nowrap;
`;

const Says = styled.p`
  flex: 1;
  color: ${color.softInk};
  font-family: ${font.reading};
  font-size: 16px;
`;

const How = styled.div`
  display: flex;
  gap: 6px;
  color: ${color.softInk};
`;

const Middle = styled.div`
  display: grid;
  grid-template-columns: minmax(340px, 420px) minmax(0, 1fr);
  min-height: 0;
`;

const Side = styled.section`
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
  border-right: 1px solid ${color.rule};
  background: ${color.paper};
`;

const Scroll = styled.div`
  display: grid;
  align-content: start;
  gap: 14px;
  overflow: auto;
  padding: 18px 24px;
`;

const Alone = styled.main`
  display: grid;
  justify-items: start;
  gap: 12px;
  padding: 40px 32px;
  font-family: ${font.reading};
  font-size: 17px;
`;

export function FinishPage(): ReactElement {
  const { projectId = "" } = useParams();
  const project = useQuery({
    queryKey: ["finish", projectId],
    queryFn: () => fetchProject(projectId),
    gcTime: 0,
  });
  const finishing = useFinishing(project.data, layerIn(useLocation().state));
  if (project.error) {
    return (
      <Alone>
        <p role="alert">{project.error.message}</p>
        <PlainButton onPress={() => void project.refetch()}>Try again</PlainButton>
        <Link to="/">Back to the wall</Link>
      </Alone>
    );
  }
  if (!finishing) return <Alone aria-busy="true">Fetching the picture…</Alone>;
  return <Shown finishing={finishing} />;
}

function Shown({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { project, request, isEager, trouble } = finishing;
  const finish = useFinish(project.id, trouble === null ? request : null, isEager);
  const [opened, open] = useState<Opened | null>(null);
  const [ground, setGround] = useState<Ground | null>(null);
  const [seeing, see] = useState<Seeing>("whole");
  const [marks, mark] = useState(false);
  const [outside, tellOutside] = useState(0);
  const shownGround = ground ?? groundFor(finishing.purpose.id);
  return (
    <Page>
      <Bar>
        <Back to={`/desk/${project.id}`}>
          <ChevronLeft size={18} aria-hidden="true" />
          Desk
        </Back>
        <Title>{project.name}</Title>
        <Says>is finished {finishing.purpose.title.replace("my own…", "as I like")}</Says>
        <HowSeen
          seeing={seeing}
          ground={shownGround}
          onSee={see}
          onGround={(next) => setGround(next)}
        />
      </Bar>
      <Middle>
        <Side aria-label="The file">
          <Scroll>
            <Purposes finishing={finishing} />
            <FileSentence finishing={finishing} opened={opened} onOpen={open} />
            <SettingsBelow finishing={finishing} opened={opened} />
            <MarginNotes
              finishing={finishing}
              finish={finish}
              outside={outside}
              isMarked={marks}
              onMark={mark}
            />
            <FileNumbers
              finishing={finishing}
              making={finish.making}
              isLimiting={opened === "limit"}
              onLimit={() => open(opened === "limit" ? null : "limit")}
            />
          </Scroll>
          <FinishActions finishing={finishing} finish={finish} />
        </Side>
        <FileStage
          finishing={finishing}
          ground={shownGround}
          seeing={seeing}
          isMarked={marks}
          onOutside={tellOutside}
          isCropping={opened === "part" && finishing.part.what === "crop"}
        />
      </Middle>
    </Page>
  );
}

/** Return which layer the desk had open as it was left. */
function layerIn(state: unknown): string | null {
  const { layer } = (state ?? {}) as { layer?: unknown };
  return typeof layer === "string" ? layer : null;
}

interface HowSeenProps {
  readonly seeing: Seeing;
  readonly ground: Ground;
  onSee(seeing: Seeing): void;
  onGround(ground: Ground): void;
}

function HowSeen({ seeing, ground, onSee, onGround }: HowSeenProps): ReactElement {
  return (
    <How>
      <LiveWord isOn={seeing === "whole"} onPress={() => onSee("whole")}>
        Whole
      </LiveWord>
      <span aria-hidden="true">·</span>
      <LiveWord isOn={seeing === "pixels"} onPress={() => onSee("pixels")}>
        pixel for pixel
      </LiveWord>
      <span aria-hidden="true">·</span>
      <span>
        on{" "}
        <LiveSelect
          label="What it is seen on"
          value={ground}
          choices={GROUNDS}
          onChange={(id) => onGround(id as Ground)}
        />
      </span>
    </How>
  );
}
