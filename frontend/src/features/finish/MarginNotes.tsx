/** What is to be known of the file, as notes in the margin. */

import { type ReactElement, useState } from "react";
import { Link } from "react-router";
import { Said } from "@/features/finish/Said";
import type { Finishing } from "@/features/finish/useFinishing";
import { sayGaveWay } from "@/model/finishing";
import { LiveWord } from "@/ui/LiveWord";
import { toLayer } from "@/work/useBegun";
import type { Finish } from "@/work/useFinish";

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
      {trouble ? (
        <Said isUrgent isAlert>
          {trouble}
        </Said>
      ) : null}
      {making.phase === "failed" ? (
        <Said isUrgent isAlert>
          {making.reason}
        </Said>
      ) : null}
      {gave ? <Said>{gave}</Said> : null}
      <SoftPhotos finishing={finishing} />
      {settings.coloring.space === "ink" ? (
        <Said>
          {sayOutside(props.outside)}{" "}
          {props.outside < LEAST_TOLD ? null : (
            <LiveWord isOn={isMarked} onPress={() => onMark(!isMarked)}>
              Show where
            </LiveWord>
          )}
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

/** Photos that have too few pixels for how large they are printed. */
function SoftPhotos({ finishing }: { readonly finishing: Finishing }): ReactElement | null {
  const [meant, setMeant] = useState<readonly string[]>([]);
  const { facts, project } = finishing;
  const [soft] = (facts?.soft ?? []).filter(({ layer_id }) => !meant.includes(layer_id));
  if (!soft) return null;
  const own = Math.round(soft.own_ppi);
  return (
    <Said isUrgent={own < SOFT_PPI}>
      <strong>{soft.name}</strong> has {own} of its own pixels an inch here and will look soft from
      near.{" "}
      <Link to={`/desk/${project.id}`} state={toLayer(soft.layer_id, "place")}>
        Make it smaller
      </Link>{" "}
      · <LiveWord onPress={() => setMeant([...meant, soft.layer_id])}>it is meant so</LiveWord>
    </Said>
  );
}
