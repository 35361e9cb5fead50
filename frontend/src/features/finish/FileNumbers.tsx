/** What is known of the file: on paper, in pixels, in bytes. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { usePaperUnit } from "@/features/finish/FileSentence";
import type { Finishing } from "@/features/finish/useFinishing";
import { isLayered, sayBytes, sayNumber, sayPaper, saySides } from "@/model/finishing";
import { color } from "@/theme/tokens";
import { LiveWord } from "@/ui/LiveWord";
import type { FileMaking } from "@/work/useFinish";

const Numbers = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 16px;
  font-size: 14px;
  font-variant-numeric: tabular-nums;

  dt {
    color: ${color.softInk};
  }
`;

interface FileNumbersProps {
  readonly finishing: Finishing;
  readonly making: FileMaking;
  readonly isLimiting: boolean;
  onLimit(): void;
}

export function FileNumbers(props: FileNumbersProps): ReactElement | null {
  const { finishing, making, isLimiting, onLimit } = props;
  const { facts, settings, isEager } = finishing;
  const unit = usePaperUnit();
  if (!facts) return null;
  const isCut = facts.page_mm[0] !== facts.trim_mm[0];
  const page = saySides(facts.page_mm, unit);
  const trim = `${sayPaper(facts.trim_mm[0], unit)} × ${sayPaper(facts.trim_mm[1], unit)}`;
  return (
    <Numbers>
      {isLayered(settings.format) ? null : (
        <>
          <dt>On paper</dt>
          <dd>{isCut ? `${page}, cut to ${trim}` : page}</dd>
          <dt>Pixels</dt>
          <dd>
            {`${sayNumber(facts.width)} × ${sayNumber(facts.height)}, ${Math.round(facts.ppi)} an inch`}
          </dd>
        </>
      )}
      <dt>File</dt>
      <dd>
        {sayWeight(making, isEager)}
        {isUnlimited(finishing) ? null : (
          <>
            {" · "}
            <LiveWord isExpanded={isLimiting} onPress={onLimit}>
              keep it under…
            </LiveWord>
          </>
        )}
      </dd>
    </Numbers>
  );
}

/** Whether the file has no limit that could be set here: it has one, or holds several. */
const isUnlimited = ({ settings, part }: Finishing): boolean =>
  isLayered(settings.format) || settings.most_bytes !== null || part.what === "compare";

function sayWeight(making: FileMaking, isEager: boolean): string {
  switch (making.phase) {
    case "made":
      return making.file.bytes === null ? "made" : sayBytes(making.file.bytes);
    case "making":
      return `being measured, ${Math.round(making.progress * 100)} %`;
    case "failed":
      return "could not be made";
    case "idle":
      return isEager ? "being measured" : "is measured as it is saved: it is large";
  }
}
