/** Where a page is cut: short ticks outside of it, as the file has them. */

import type { ReactElement } from "react";
import styled from "styled-components";
import type { FileFacts, FileSettings } from "@/model/finishing";

const LENGTH = 14;
const GAP = 5;

const Mark = styled.i`
  position: absolute;
  background: #25221d;

  &[data-way="down"] {
    width: 1px;
    height: ${LENGTH}px;
  }

  &[data-way="across"] {
    width: ${LENGTH}px;
    height: 1px;
  }
`;

interface CutMarksProps {
  readonly facts: FileFacts;
  readonly settings: FileSettings;
}

export function CutMarks({ facts, settings }: CutMarksProps): ReactElement | null {
  const { paper, tiling } = settings;
  if (tiling || (paper.bleed_mm === 0 && !paper.marks)) return null;
  const across = `${(100 * paper.bleed_mm) / facts.page_mm[0]}%`;
  const down = `${(100 * paper.bleed_mm) / facts.page_mm[1]}%`;
  const out = -LENGTH - GAP;
  return (
    <span aria-hidden="true">
      {["left", "right"].map((side) =>
        ["top", "bottom"].map((end) => (
          <Mark key={side + end} data-way="down" style={{ [side]: across, [end]: out }} />
        )),
      )}
      {["top", "bottom"].map((side) =>
        ["left", "right"].map((end) => (
          <Mark key={side + end} data-way="across" style={{ [side]: down, [end]: out }} />
        )),
      )}
    </span>
  );
}
