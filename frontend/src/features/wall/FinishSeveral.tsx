/** Several pictures finished at once: for one purpose, into one file. */

import { useQuery } from "@tanstack/react-query";
import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { exportUrl, fetchPurposes } from "@/api/calls";
import { GATHERED, type Gathered } from "@/model/finishing";
import { sayCount } from "@/model/wording";
import { color, font } from "@/theme/tokens";
import { PlainButton, StrongButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { NumberBox } from "@/ui/NumberBox";
import { Progress } from "@/ui/Progress";
import { useFinishMany } from "@/work/useFinishMany";

const Bar = styled.section`
  position: sticky;
  bottom: 0;
  z-index: 5;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  padding: 12px 32px;
  border-top: 1px solid ${color.ruleStrong};
  background: ${color.sheet};
`;

const Sentence = styled.p`
  flex: 1 1 420px;
  font-family: ${font.reading};
  font-size: 18px;
`;

const Failed = styled.ul`
  flex-basis: 100%;
  max-height: 120px;
  overflow: auto;
  padding-left: 14px;
  border-left: 3px solid ${color.live};
`;

const Saved = styled.a`
  color: ${color.live};
`;

interface FinishSeveralProps {
  readonly chosen: readonly string[];
  onAll(): void;
  onLeave(): void;
}

export function FinishSeveral({ chosen, onAll, onLeave }: FinishSeveralProps): ReactElement {
  const purposes = useQuery({ queryKey: ["purposes"], queryFn: fetchPurposes });
  const [purposeId, choose] = useState("web");
  const [gathered, gather] = useState<Gathered>("zip");
  const [grid, setGrid] = useState({ columns: 3, rows: 4 });
  const many = useFinishMany();
  const purpose = purposes.data?.find(({ id }) => id === purposeId) ?? purposes.data?.[0];
  const start = () => {
    if (purpose) many.start({ projects: chosen, settings: purpose.settings, gathered, grid });
  };
  return (
    <Bar aria-label="Finish several pictures">
      <Sentence>
        {chosen.length === 0 ? "Choose pictures above" : sayCount(chosen.length, "picture")}{" "}
        {purpose ? (
          <LiveSelect
            label="What they are finished for"
            value={purpose.id}
            choices={(purposes.data ?? []).map(({ id, title }) => ({ id, label: title }))}
            onChange={choose}
          />
        ) : null}
        , as{" "}
        <LiveSelect
          label="As what"
          value={gathered}
          choices={GATHERED}
          onChange={(id) => gather(id as Gathered)}
        />
        .
      </Sentence>
      {gathered === "contact" ? <Grid grid={grid} onGrid={setGrid} /> : null}
      {many.phase === "working" ? (
        <>
          <Progress label="Making the pictures" share={many.progress} />
          <PlainButton onPress={many.stop}>Stop</PlainButton>
        </>
      ) : (
        <>
          <PlainButton onPress={onAll}>Choose all</PlainButton>
          <StrongButton isDisabled={chosen.length === 0 || !purpose} onPress={start}>
            Save them
          </StrongButton>
          <PlainButton onPress={onLeave}>Leave it</PlainButton>
        </>
      )}
      <Outcome many={many} />
    </Bar>
  );
}

/** What came of it, and what could not be made. */
function Outcome({
  many,
}: {
  readonly many: ReturnType<typeof useFinishMany>;
}): ReactElement | null {
  if (many.phase === "failed") return <p role="alert">{many.reason}</p>;
  if (many.phase !== "done") return null;
  return (
    <>
      <span role="status">
        {`${sayCount(many.made, "picture")} saved as `}
        <Saved href={exportUrl(many.jobId)} download>
          {many.name}
        </Saved>
      </span>
      {many.failed.length > 0 ? (
        <Failed aria-label="What could not be made">
          {many.failed.map(({ name, reason }) => (
            <li key={name}>
              <strong>{name}</strong>: {reason}
            </li>
          ))}
        </Failed>
      ) : null}
    </>
  );
}

interface GridProps {
  readonly grid: { readonly columns: number; readonly rows: number };
  onGrid(grid: GridProps["grid"]): void;
}

function Grid({ grid, onGrid }: GridProps): ReactElement {
  const box = (label: string, name: "columns" | "rows") => (
    <NumberBox
      label={label}
      value={grid[name]}
      min={1}
      max={20}
      step={1}
      onChange={(count) => onGrid({ ...grid, [name]: count })}
    />
  );
  return (
    <>
      {box("Columns", "columns")}
      {box("Rows", "rows")}
    </>
  );
}
