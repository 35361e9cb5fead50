/** The versions of a picture: compared, opened, made pictures of their own. */

import { useQuery } from "@tanstack/react-query";
import { type ReactElement, useState } from "react";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { fetchProject } from "@/api/calls";
import { Divider } from "@/features/versions/Divider";
import { Print, type Seen } from "@/features/versions/Seen";
import { VersionItem } from "@/features/versions/VersionItem";
import { color } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { PageHead, PageSays, PageSentence, PageTitle } from "@/ui/PageHead";
import { ToWall } from "@/ui/ToWall";
import { useVersions } from "@/work/useVersions";

const Page = styled.main`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100dvh;
`;

const Middle = styled.div`
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  min-height: 0;
`;

const List = styled.ul`
  overflow: auto;
  border-right: 1px solid ${color.rule};
  background: ${color.sheet};
`;

const Stage = styled.section`
  display: grid;
  min-height: 0;
  padding: 22px;
  background: #8b8b8b;
`;

const Sides = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  grid-auto-rows: minmax(180px, 1fr);
  gap: 18px;
  min-height: 0;
  overflow: auto;
`;

const Side = styled.figure`
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  gap: 6px;
  min-height: 0;

  figcaption {
    justify-self: center;
    padding: 1px 8px;
    background: ${color.stageNote};
    color: ${color.stageNoteInk};
  }
`;

const WAYS = [
  { id: "divider", label: "under a divider" },
  { id: "two", label: "side by side" },
  { id: "all", label: "with all others" },
] as const;

type Way = (typeof WAYS)[number]["id"];

interface Picked {
  readonly left?: string;
  readonly right?: string;
}

export function VersionsPage(): ReactElement {
  const { projectId = "" } = useParams();
  const project = useQuery({
    queryKey: ["versions", projectId, "now"],
    queryFn: () => fetchProject(projectId),
  });
  const versions = useVersions(projectId);
  const trouble = project.error ?? versions.error;
  const again = () => void Promise.all([project.refetch(), versions.refetch()]);
  if (trouble) {
    return (
      <PageSays>
        <p role="alert">{trouble.message}</p>
        <PlainButton onPress={again}>Try again</PlainButton>
        <Link to="/">Back to the wall</Link>
      </PageSays>
    );
  }
  if (!project.data || !versions.data)
    return <PageSays aria-busy="true">Fetching the versions…</PageSays>;
  const { head, name, composite } = project.data;
  const { width, height } = composite.canvas;
  const now: Seen = { projectId, revision: head, name: "as it is now", width, height };
  const named = versions.data.map((version) => ({ projectId, ...version }));
  const known = named.some(({ revision }) => revision === head);
  return <Comparing name={name} now={known ? null : now} named={named} />;
}

interface ComparingProps {
  readonly name: string;
  /** How the project stands, where that moment has no name. */
  readonly now: Seen | null;
  readonly named: readonly (Seen & { readonly at: string })[];
}

function Comparing({ name, now, named }: ComparingProps): ReactElement {
  const all: readonly Seen[] = now ? [now, ...named] : named;
  const [way, setWay] = useState<Way>("divider");
  const [picked, pick] = useState<Picked>({});
  const find = (revision: string | undefined, otherwise: Seen | undefined) =>
    all.find((one) => one.revision === revision) ?? otherwise;
  // The newest against the one before it, as long as nothing else is asked for.
  const left = find(picked.left, all[1] ?? all[0]);
  const right = find(picked.right, all[0]);
  if (!left || !right) return <PageSays>There is nothing to be compared.</PageSays>;
  return (
    <Page>
      <PageHead>
        <ToWall />
        <PageTitle>{name}</PageTitle>
        {all.length > 1 ? (
          <CompareSentence
            all={all}
            sides={{ left, right }}
            way={way}
            onWay={setWay}
            onPick={(side) => pick({ ...picked, ...side })}
          />
        ) : (
          <PageSentence>
            has no other moment with a name. Give one at the desk, beside its name.
          </PageSentence>
        )}
        <Link to={`/desk/${right.projectId}`}>To the desk</Link>
      </PageHead>
      <Middle>
        <List aria-label="Versions">
          {now ? <VersionItem seen={now} at={null} /> : null}
          {named.map((version) => (
            <VersionItem key={version.revision} seen={version} at={version.at} />
          ))}
        </List>
        <Stage aria-label="Comparing">
          {way === "divider" ? (
            <Divider left={left} right={right} />
          ) : (
            <Beside shown={way === "two" ? [left, right] : all} />
          )}
        </Stage>
      </Middle>
    </Page>
  );
}

interface CompareSentenceProps {
  readonly all: readonly Seen[];
  readonly sides: { readonly left: Seen; readonly right: Seen };
  readonly way: Way;
  onWay(way: Way): void;
  onPick(side: Picked): void;
}

function CompareSentence(props: CompareSentenceProps): ReactElement {
  const { all, sides, way, onWay, onPick } = props;
  const choices = all.map((one) => ({ id: one.revision, label: one.name }));
  return (
    <PageSentence>
      compared{" "}
      <LiveSelect
        label="How they are compared"
        value={way}
        choices={WAYS}
        onChange={(id) => onWay(id as Way)}
      />
      {way === "all" ? (
        "."
      ) : (
        <>
          :{" "}
          <LiveSelect
            label="On the left"
            value={sides.left.revision}
            choices={choices}
            onChange={(left) => onPick({ left })}
          />{" "}
          on the left,{" "}
          <LiveSelect
            label="On the right"
            value={sides.right.revision}
            choices={choices}
            onChange={(right) => onPick({ right })}
          />{" "}
          on the right.
        </>
      )}
    </PageSentence>
  );
}

function Beside({ shown }: { readonly shown: readonly Seen[] }): ReactElement {
  return (
    <Sides>
      {shown.map((seen, place) => (
        // Both sides may show the same moment.
        // biome-ignore lint/suspicious/noArrayIndexKey: a side is its place
        <Side key={place}>
          <Print seen={seen} isOneOfMany={shown.length > 2} />
          <figcaption>{seen.name}</figcaption>
        </Side>
      ))}
    </Sides>
  );
}
