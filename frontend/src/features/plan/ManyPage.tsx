/** Many pictures by one plan: photos or a table, what becomes of them, and how far they are. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactElement, useMemo, useState } from "react";
import { FileTrigger } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { v4 as newId } from "uuid";
import {
  fetchBatches,
  fetchPurposes,
  fetchShelf,
  readTable,
  startBatch,
  thumbnailUrl,
} from "@/api/calls";
import { ACCEPTED } from "@/api/uploads";
import { BatchView } from "@/features/plan/BatchView";
import { type Chosen, PhotoChooser } from "@/features/plan/PhotoChooser";
import { WithPlan } from "@/features/plan/WithPlan";
import {
  type Batch,
  isNamedIn,
  lackingIn,
  type Resolved,
  type Row,
  resolved,
  rowOfLine,
  rowOfPhoto,
} from "@/model/many";
import { lowered, NOTHING, type PlanOffer } from "@/model/plans";
import { sayCount } from "@/model/wording";
import { useMessages } from "@/state/messages";
import { usePlans } from "@/state/plans";
import { color, font } from "@/theme/tokens";
import { PlainButton, QuietButton, StrongButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { PageHead, PageSentence, PageTitle } from "@/ui/PageHead";
import { ToWall } from "@/ui/ToWall";
import { Arrivals } from "@/work/Arrivals";
import { useBringIn } from "@/work/useBringIn";
import { useDroppedFiles } from "@/work/useDroppedFiles";

const Page = styled.main`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100dvh;
`;

const Body = styled.div`
  display: grid;
  align-content: start;
  gap: 18px;
  overflow: auto;
  padding: 22px 32px 40px;
`;

const Says = styled.p`
  max-width: 860px;
  font-family: ${font.reading};
  font-size: 19px;
  line-height: 1.5;
`;

const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
`;

const Rows = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 8px 18px;
  max-height: 38vh;
  overflow: auto;
  padding: 2px;
`;

const Line = styled.li`
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  font-size: 13.5px;

  img,
  span:first-child {
    display: block;
    width: 40px;
    height: 40px;
    background: ${color.well};
    object-fit: cover;
  }

  > span:nth-child(2) {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }

  small {
    display: block;
    color: ${color.trouble};
  }
`;

const Title = styled.h2`
  padding-top: 10px;
  font-family: ${font.name};
  font-size: 16px;
  font-weight: 700;
`;

const Make = styled(StrongButton)`
  margin: 0 10px;
  font-family: ${font.control};
  font-size: 14px;
  line-height: 1.4;
`;

const SHOWN_ROWS = 200;
const KEEPING = [
  { id: "projects", label: "hang them on the wall" },
  { id: "files", label: "save them in one ZIP" },
] as const;

export function ManyPage(): ReactElement {
  return <WithPlan>{(plan) => <Many plan={plan} />}</WithPlan>;
}

function Many({ plan }: { readonly plan: PlanOffer }): ReactElement {
  const [slot, chooseSlot] = useState(plan.slots[0]?.name ?? "");
  const { rows, add, drop, bring } = useRows(plan, slot);
  const found = useResolved(rows, plan);
  const ready = found.filter(
    (one) => one.missing.length === 0 && lackingIn(plan, one).length === 0,
  );
  const title = plan.slots.find(({ name }) => name === slot)?.title ?? "";
  return (
    <Page>
      <PageHead>
        <ToWall />
        <PageTitle>{plan.title}</PageTitle>
        <PageSentence>
          many at once; <Link to={`/plan/${plan.name}`}>one at a time</Link>
        </PageSentence>
      </PageHead>
      <Body>
        <Says>
          {plan.slots.length > 1 ? (
            <>
              Each of your photos takes the place of{" "}
              <LiveSelect
                label="Which place the photos take"
                value={slot}
                choices={plan.slots.map((one) => ({ id: one.name, label: lowered(one.title) }))}
                onChange={chooseSlot}
              />
              ; all else is as on the plan’s page.
            </>
          ) : (
            "Each of your photos becomes a picture of its own; all else is as on the plan’s page."
          )}{" "}
          Or a table in CSV says it row by row, in columns called {columnsOf(plan)}.
        </Says>
        <Tools>
          <FileTrigger
            allowsMultiple
            acceptedFileTypes={ACCEPTED.split(",")}
            onSelect={(files) => bring([...(files ?? [])])}
          >
            <PlainButton>Photos from this computer…</PlainButton>
          </FileTrigger>
          <FileTrigger acceptDirectory onSelect={(files) => bring([...(files ?? [])])}>
            <PlainButton>A folder…</PlainButton>
          </FileTrigger>
          <PhotoChooser what={title} takesSeveral onTake={add} onBring={add}>
            <PlainButton>Of the shelf or the library…</PlainButton>
          </PhotoChooser>
          <FileTrigger
            acceptedFileTypes={[".csv", ".tsv", "text/csv"]}
            onSelect={(files) => bring([...(files ?? [])])}
          >
            <PlainButton>A table…</PlainButton>
          </FileTrigger>
        </Tools>
        <Arrivals />
        <RowList found={found} plan={plan} onDrop={drop} />
        <Start
          plan={plan}
          ready={ready}
          left={found.length - ready.length}
          onBegun={() => drop(null)}
        />
        <Batches plan={plan} />
      </Body>
    </Page>
  );
}

function columnsOf({ slots, words, choices }: PlanOffer): string {
  return ["name", ...[...slots, ...words, ...choices].map(({ name }) => name)].join(", ");
}

/** Rows that are to be made, and what adds to them. */
function useRows(plan: PlanOffer, slot: string) {
  const [rows, setRows] = useState<readonly Row[]>([]);
  const bringIn = useBringIn();
  const add = (photo: Chosen) =>
    setRows((now) => (isNamedIn(now, photo) ? now : [...now, rowOfPhoto(newId(), slot, photo)]));
  // Tables first: a photo that one of them speaks of is no row of its own.
  const bring = async (files: readonly File[]) => {
    for (const one of files.filter(({ name }) => isTable(name))) await table(one);
    bringIn(
      files.filter(({ name }) => !isTable(name)),
      add,
    );
  };
  const table = (file: File) =>
    readTable(plan.name, file).then(
      (lines) => setRows((now) => [...now, ...lines.map((line) => rowOfLine(newId(), line))]),
      (error: Error) => useMessages.getState().warn(error.message),
    );
  const drop = (key: string | null) =>
    setRows((now) => (key === null ? [] : now.filter((row) => row.key !== key)));
  useDroppedFiles(bring);
  return { rows, add, drop, bring };
}

const isTable = (name: string) => /\.(csv|tsv)$/i.test(name);

function useResolved(rows: readonly Row[], plan: PlanOffer): readonly Resolved[] {
  const common = usePlans(({ fillings }) => fillings[plan.name] ?? NOTHING);
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: fetchShelf });
  const here = shelf.data;
  return useMemo(() => rows.map((row) => resolved(row, common, here ?? [])), [rows, common, here]);
}

interface RowListProps {
  readonly found: readonly Resolved[];
  readonly plan: PlanOffer;
  onDrop(key: string): void;
}

function RowList({ found, plan, onDrop }: RowListProps): ReactElement | null {
  if (found.length === 0) return null;
  return (
    <Rows aria-label="What is to be made">
      {found.slice(0, SHOWN_ROWS).map((one) => {
        const photo = Object.values(one.filling.photos).flat()[0];
        const lacking = lackingIn(plan, one);
        return (
          <Line key={one.row.key}>
            {photo === undefined ? (
              <span />
            ) : (
              <img src={thumbnailUrl(photo)} alt="" loading="lazy" />
            )}
            <span title={one.row.name}>
              {one.row.name}
              {one.missing.length > 0 ? <small>{one.missing[0]} is not here yet</small> : null}
              {one.missing.length === 0 && lacking.length > 0 ? (
                <small>no photo for {lacking.join(", ")}</small>
              ) : null}
            </span>
            <QuietButton
              aria-label={`Leave out ${one.row.name}`}
              onPress={() => onDrop(one.row.key)}
            >
              out
            </QuietButton>
          </Line>
        );
      })}
      {found.length > SHOWN_ROWS ? <li>and {found.length - SHOWN_ROWS} more</li> : null}
    </Rows>
  );
}

interface StartProps {
  readonly plan: PlanOffer;
  readonly ready: readonly Resolved[];
  /** How many cannot be made as they are. */
  readonly left: number;
  onBegun(): void;
}

function Start({ plan, ready, left, onBegun }: StartProps): ReactElement {
  const client = useQueryClient();
  const purposes = useQuery({ queryKey: ["purposes"], queryFn: fetchPurposes });
  const [keep, setKeep] = useState<Batch["keep"]>("projects");
  const [purposeId, choose] = useState("web");
  const [isBeginning, setBeginning] = useState(false);
  const purpose = purposes.data?.find(({ id }) => id === purposeId) ?? purposes.data?.[0];
  const start = () => {
    setBeginning(true);
    startBatch(plan.name, {
      id: newId(),
      items: ready.map(({ row, filling }) => ({ name: row.name, filling })),
      keep,
      settings: keep === "files" && purpose ? purpose.settings : null,
    })
      .then(
        () => {
          void client.invalidateQueries({ queryKey: ["batches"] });
          onBegun();
        },
        (error: Error) => useMessages.getState().warn(error.message),
      )
      .finally(() => setBeginning(false));
  };
  return (
    <Says>
      Then{" "}
      <LiveSelect
        label="What becomes of them"
        value={keep}
        choices={KEEPING}
        onChange={(id) => setKeep(id as Batch["keep"])}
      />
      {keep === "files" && purpose ? (
        <>
          ,{" "}
          <LiveSelect
            label="What the files are for"
            value={purpose.id}
            choices={(purposes.data ?? []).map(({ id, title }) => ({ id, label: title }))}
            onChange={choose}
          />
        </>
      ) : null}
      .{" "}
      <Make isDisabled={ready.length === 0 || isBeginning} onPress={start}>
        {ready.length === 0 ? "Make them" : `Make ${sayCount(ready.length, "picture")}`}
      </Make>{" "}
      {left > 0 ? <small role="status">{sayCount(left, "row")} left out as yet.</small> : null}
    </Says>
  );
}

function Batches({ plan }: { readonly plan: PlanOffer }): ReactElement | null {
  const batches = useQuery({ queryKey: ["batches"], queryFn: fetchBatches });
  const own = (batches.data ?? []).filter((one) => one.plan === plan.name);
  if (own.length === 0) return null;
  return (
    <section aria-label="What was begun">
      <Title>What was begun</Title>
      {own.map(({ job }) => (
        <BatchView key={job.id} id={job.id} />
      ))}
    </section>
  );
}
