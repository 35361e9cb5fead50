/** One batch: how far it is, what failed and why, what is worth a look. */

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactElement, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { cancelJob, exportUrl, fetchBatch, pauseBatch, previewUrl } from "@/api/calls";
import { type Batch, type BatchItem, sayBatch } from "@/model/many";
import { sayWhen } from "@/model/wording";
import { useMessages } from "@/state/messages";
import { color, font } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";
import { Progress } from "@/ui/Progress";

const Box = styled.article`
  display: grid;
  gap: 8px;
  margin-top: 12px;
  padding: 12px 0;
  border-top: 1px solid ${color.rule};
`;

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;

  p {
    font-family: ${font.reading};
    font-size: 16px;
  }
`;

const Items = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 10px 20px;
`;

const Item = styled.li`
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr);
  gap: 10px;
  font-size: 13.5px;

  img {
    width: 56px;
    height: 56px;
    background: ${color.well};
    object-fit: cover;
  }

  p {
    color: ${color.softInk};
    line-height: 1.35;
  }

  &[data-state="failed"] p,
  &[data-doubtful="true"] p {
    color: ${color.trouble};
  }
`;

const Saved = styled.a`
  color: ${color.live};
`;

const ASK_AGAIN_MS = 1500;
const SMALL = 160;

export function BatchView({ id }: { readonly id: string }): ReactElement | null {
  const client = useQueryClient();
  const [pages, show] = useState(1);
  const batch = useQuery({
    queryKey: ["batches", id, pages],
    queryFn: () => fetchBatch(id, pages),
    placeholderData: keepPreviousData,
    refetchInterval: ({ state }) => (isGoing(state.data) ? ASK_AGAIN_MS : false),
  });
  const after = (work: Promise<unknown>) =>
    work.then(
      () => client.invalidateQueries({ queryKey: ["batches", id] }),
      (error: Error) => useMessages.getState().warn(error.message),
    );
  if (!batch.data) return null;
  const { job, keep, title, begun_at: begun, items } = batch.data;
  const isPaused = job.state === "paused";
  return (
    <Box aria-label={`${title}, begun ${sayWhen(begun)}`}>
      <Head>
        <p role="status">
          {sayBatch(batch.data)}; begun {sayWhen(begun)}.
        </p>
        {isGoing(batch.data) ? <Progress label="How far it is" share={job.progress} /> : null}
        {isGoing(batch.data) ? (
          <PlainButton onPress={() => void after(pauseBatch(id, true))}>Let it rest</PlainButton>
        ) : null}
        {isPaused ? (
          <PlainButton onPress={() => void after(pauseBatch(id, false))}>Go on</PlainButton>
        ) : null}
        {isGoing(batch.data) || isPaused ? (
          <PlainButton onPress={() => void after(cancelJob(id))}>Stop</PlainButton>
        ) : null}
        {job.state === "done" && keep === "files" && batch.data.made > 0 ? (
          <Saved href={exportUrl(id)} download>
            {job.file_name}
          </Saved>
        ) : null}
        {job.error ? <p role="alert">{job.error}</p> : null}
      </Head>
      <Items aria-label="Its pictures">
        {items
          .filter(({ state }) => state !== "waiting")
          .map((item) => (
            <ItemView key={item.number} item={item} />
          ))}
      </Items>
      {items.length < batch.data.made + batch.data.failed ? (
        <PlainButton onPress={() => show(pages + 1)}>Show more of them</PlainButton>
      ) : null}
    </Box>
  );
}

function isGoing(batch: Batch | undefined): boolean {
  return batch?.job.state === "waiting" || batch?.job.state === "running";
}

function ItemView({ item }: { readonly item: BatchItem }): ReactElement {
  const { name, state, said, is_doubtful: isDoubtful, project_id: project } = item;
  const says = said ?? (isDoubtful ? "Look at its outline." : "");
  return (
    <Item data-state={state} data-doubtful={isDoubtful}>
      {project === null ? <span /> : <img src={previewUrl(project, null, SMALL)} alt="" />}
      <div>
        {project === null ? name : <Link to={`/desk/${project}`}>{name}</Link>}
        {says ? <p>{says}</p> : null}
      </div>
    </Item>
  );
}
