/** What is to be known of the file, as notes in the margin. */

import { type ReactElement, type ReactNode, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Finishing } from "@/features/finish/useFinishing";
import { sayGaveWay } from "@/model/finishing";
import { color, font } from "@/theme/tokens";
import { LiveWord } from "@/ui/LiveWord";
import type { Finish } from "@/work/useFinish";

const Note = styled.p`
  padding-left: 12px;
  border-left: 3px solid ${color.rule};
  font-family: ${font.reading};
  font-size: 15.5px;

  &[data-urgent="true"] {
    border-color: ${color.live};
  }
`;

const SOFT_PPI = 150;
const LEAST_TOLD = 0.0005;

interface MarginNotesProps {
  readonly finishing: Finishing;
  readonly finish: Finish;
  /** Which share of the picture no ink reaches. */
  readonly outside: number;
  readonly isMarked: boolean;
  onMark(isMarked: boolean): void;
}

export function MarginNotes(props: MarginNotesProps): ReactElement {
  const { finishing, finish, isMarked, onMark } = props;
  const { settings, trouble } = finishing;
  const { making } = finish;
  const found = making.phase === "made" ? making.file.found : null;
  const gave = found && settings.most_bytes ? sayGaveWay(found, settings.most_bytes) : null;
  return (
    <>
      {trouble ? <Said isUrgent>{trouble}</Said> : null}
      {making.phase === "failed" ? <Said isUrgent>{making.reason}</Said> : null}
      {gave ? <Said>{gave}</Said> : null}
      <SoftPhotos finishing={finishing} />
      {settings.coloring.space === "ink" ? (
        <Said>
          {sayOutside(props.outside)}{" "}
          <LiveWord isOn={isMarked} onPress={() => onMark(!isMarked)}>
            Show where
          </LiveWord>
        </Said>
      ) : null}
    </>
  );
}

function sayOutside(share: number): string {
  const seen = "It is seen here as it will print.";
  if (share < LEAST_TOLD) return `All of its colours can be printed. ${seen}`;
  const percent = share < 0.01 ? "Less than 1 %" : `About ${Math.round(share * 100)} %`;
  return `${percent} of it is brighter than this printer's ink. ${seen}`;
}

interface SaidProps {
  readonly isUrgent?: boolean;
  readonly children: ReactNode;
}

function Said({ isUrgent = false, children }: SaidProps): ReactElement {
  return (
    <Note data-urgent={isUrgent} role={isUrgent ? "alert" : undefined}>
      {children}
    </Note>
  );
}

/** Photos that have too few pixels for how large they are printed. */
function SoftPhotos({ finishing }: { readonly finishing: Finishing }): ReactElement | null {
  const [meant, setMeant] = useState<readonly string[]>([]);
  const { facts, project } = finishing;
  const [soft] = (facts?.soft ?? []).filter(({ layer_id }) => !meant.includes(layer_id));
  if (!soft) return null;
  const own = Math.round(soft.own_ppi);
  return (
    <Note data-urgent={own < SOFT_PPI}>
      <strong>{soft.name}</strong> has {own} of its own pixels an inch here and will look soft from
      near. <Link to={`/desk/${project.id}`}>Make it smaller</Link> ·{" "}
      <LiveWord onPress={() => setMeant([...meant, soft.layer_id])}>it is meant so</LiveWord>
    </Note>
  );
}
