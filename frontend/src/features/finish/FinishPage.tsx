/** Finish: for what the picture is, how its file shall be, and how that will look. */

import { useQuery } from "@tanstack/react-query";
import { ChevronLeft } from "lucide-react";
import { type ReactElement, useState } from "react";
import { Link, useLocation, useParams } from "react-router";
import styled from "styled-components";
import { fetchProject } from "@/api/calls";
import { ChangedMeanwhile } from "@/features/finish/ChangedMeanwhile";
import { EarlierFiles } from "@/features/finish/EarlierFiles";
import { FileNumbers } from "@/features/finish/FileNumbers";
import { FileSentence, type Opened } from "@/features/finish/FileSentence";
import { FileStage } from "@/features/finish/FileStage";
import { FinishActions } from "@/features/finish/FinishActions";
import { MarginNotes } from "@/features/finish/MarginNotes";
import { Purposes } from "@/features/finish/Purposes";
import { SettingsBelow } from "@/features/finish/SettingsBelow";
import { type Finishing, useFinishing } from "@/features/finish/useFinishing";
import { GROUNDS, type Ground, groundFor, type Seeing } from "@/model/fileGrounds";
import { isLayered } from "@/model/finishing";
import { color } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { PageHead, PageSays, PageSentence, PageTitle } from "@/ui/PageHead";
import { useFinish } from "@/work/useFinish";

const Page = styled.main`
  display: grid;
  grid-template-rows: 54px minmax(0, 1fr);
  height: 100dvh;
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
      <PageSays>
        <p role="alert">{project.error.message}</p>
        <PlainButton onPress={() => void project.refetch()}>Try again</PlainButton>
        <Link to="/">Back to the wall</Link>
      </PageSays>
    );
  }
  if (!finishing) return <PageSays aria-busy="true">Fetching the picture…</PageSays>;
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
      <PageHead>
        <Back to={`/desk/${project.id}`}>
          <ChevronLeft size={18} aria-hidden="true" />
          Desk
        </Back>
        <PageTitle>{project.name}</PageTitle>
        <PageSentence>
          is finished {finishing.purpose.title.replace("my own…", "as I like")}
        </PageSentence>
        <HowSeen
          seeing={isLayered(finishing.settings.format) ? null : seeing}
          ground={shownGround}
          onSee={see}
          onGround={(next) => setGround(next)}
        />
      </PageHead>
      <Middle>
        <Side aria-label="The file">
          <Scroll>
            <Purposes finishing={finishing} />
            <FileSentence finishing={finishing} opened={opened} onOpen={open} />
            <SettingsBelow finishing={finishing} opened={opened} />
            <ChangedMeanwhile project={project} />
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
            <EarlierFiles projectId={project.id} but={finish.made} />
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
  /** Null where there are no single pixels to be seen. */
  readonly seeing: Seeing | null;
  readonly ground: Ground;
  onSee(seeing: Seeing): void;
  onGround(ground: Ground): void;
}

function HowSeen({ seeing, ground, onSee, onGround }: HowSeenProps): ReactElement {
  return (
    <How>
      {seeing === null ? null : (
        <>
          <LiveWord isOn={seeing === "whole"} onPress={() => onSee("whole")}>
            Whole
          </LiveWord>
          <span aria-hidden="true">·</span>
          <LiveWord isOn={seeing === "pixels"} onPress={() => onSee("pixels")}>
            pixel for pixel
          </LiveWord>
          <span aria-hidden="true">·</span>
        </>
      )}
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
