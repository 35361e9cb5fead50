/** Lining a photo up with another that shows the same place. */

import { type ReactElement, useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { v4 as newId } from "uuid";
import { askForAlignment, cancelJob, exportUrl } from "@/api/calls";
import type { AlignFound, AlignRequest } from "@/api/types";
import { MatchPoints } from "@/features/place/MatchPoints";
import { sharedFrame } from "@/model/aligning";
import { allLayers, type Canvas, type Composite, type PhotoLayer } from "@/model/composite";
import { useDesk } from "@/state/desk/desk";
import { type JudgingAid, useJudging } from "@/state/judging";
import { useMatching } from "@/state/matching";
import { useMessages } from "@/state/messages";
import { useProject } from "@/state/project";
import { PlainButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { Progress } from "@/ui/Progress";
import { Words } from "@/ui/Words";
import { type DeskActions, useDeskActions } from "@/work/DeskContext";
import { jobEnd } from "@/work/jobEnd";
import { useSaveFile } from "@/work/useSaveFile";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
`;

type By = "content" | "map" | "points";
type Kind = NonNullable<AlignRequest["kind"]>;

const BY = [
  { id: "content", label: "what both show" },
  { id: "map", label: "map coordinates in their files" },
  { id: "points", label: "points matched by hand" },
];

const KINDS = [
  { id: "shift", label: "only moving it" },
  { id: "similar", label: "moving, scaling and turning it" },
  { id: "projective", label: "pulling its corners too" },
];

export interface LineUpProps {
  readonly layer: PhotoLayer;
  readonly composite: Composite;
  readonly isOff: boolean;
}

export function LineUpWork({ layer, composite, isOff }: LineUpProps): ReactElement | null {
  const desk = useDeskActions();
  const others = allLayers(composite.layers).filter(
    (one) => one.kind === "photo" && one.id !== layer.id,
  );
  const [chosen, setChosen] = useState<string | null>(null);
  const [by, setBy] = useState<By>("content");
  const [kind, setKind] = useState<Kind>("similar");
  const work = useAlignment(desk);
  const matched = useMatched();
  const fixed = others.find(({ id }) => id === chosen) ?? others[0];
  if (fixed?.kind !== "photo") return null;
  return (
    <>
      <Words>
        Line it up with{" "}
        <LiveSelect
          label="Line it up with"
          value={fixed.id}
          choices={others.map(({ id, name }) => ({ id, label: name }))}
          onChange={setChosen}
        />{" "}
        by{" "}
        <LiveSelect
          label="What it is lined up by"
          value={by}
          choices={BY}
          onChange={(id) => setBy(id as By)}
        />
        {by === "map" ? null : (
          <>
            ,{" "}
            <LiveSelect
              label="What may change"
              value={kind}
              choices={KINDS}
              onChange={(id) => setKind(id as Kind)}
            />
          </>
        )}
        .
      </Words>
      {by === "points" ? <MatchPoints moving={layer} fixed={fixed} /> : null}
      {work.progress === null ? (
        <Row>
          <PlainButton
            isDisabled={isOff || (by === "points" && matched.length < FEWEST_PAIRS)}
            onPress={() =>
              work.begin({ moving: layer.id, fixed: fixed.id, by, kind, pairs: matched })
            }
          >
            Line it up
          </PlainButton>
          <PlainButton onPress={() => cutToShared(desk, composite, [layer.id, fixed.id])}>
            Cut the sheet to what both show
          </PlainButton>
        </Row>
      ) : (
        <Row>
          <Progress label="Looking for what both show" share={work.progress} />
          <PlainButton onPress={work.stop}>Stop</PlainButton>
        </Row>
      )}
      {work.said ? <Words role="status">{work.said}</Words> : null}
      <ByEye />
      <SavePair canvas={composite.canvas} layers={[fixed.id, layer.id]} />
    </>
  );
}

const PAIR_QUALITY = 92;

interface SavePairProps {
  readonly canvas: Canvas;
  readonly layers: readonly string[];
}

/** Both photos as pictures of one size, such as for a page that shows before and after. */
function SavePair({ canvas, layers }: SavePairProps): ReactElement {
  const { projectId } = useDeskActions();
  const finish = useSaveFile(projectId);
  const format = canvas.background === null ? "png" : "jpeg";
  const wishes = { format, width: canvas.width, quality: PAIR_QUALITY, matte: "#ffffff" } as const;
  if (finish.phase === "working") {
    return (
      <Row>
        <Progress label="Making both pictures" share={finish.progress} />
        <PlainButton onPress={finish.stop}>Stop</PlainButton>
      </Row>
    );
  }
  return (
    <>
      <Row>
        <PlainButton onPress={() => finish.start({ ...wishes, apart: [...layers] })}>
          Save both as a pair
        </PlainButton>
        {finish.phase === "done" ? (
          <Words role="status">
            Saved as{" "}
            <a href={exportUrl(finish.jobId)} download>
              {finish.fileName}
            </a>
            : two pictures of one size.
          </Words>
        ) : null}
      </Row>
      {finish.phase === "failed" ? <Words role="alert">{finish.reason}</Words> : null}
    </>
  );
}

/** Aids to see how well one lies over the other. */
function ByEye(): ReactElement {
  const { aid, setAid } = useJudging();
  const seeThrough = useDesk((store) => store.seeThrough);
  const { setSeeThrough } = useDesk((store) => store.actions);
  // Nothing else on the desk could end them.
  useEffect(() => () => useJudging.getState().setAid(null), []);
  const aided = (name: JudgingAid, label: string) => (
    <LiveWord isOn={aid === name} onPress={() => setAid(aid === name ? null : name)}>
      {label}
    </LiveWord>
  );
  return (
    <Words>
      Judge it by eye:{" "}
      <LiveWord isOn={seeThrough} onPress={() => setSeeThrough(!seeThrough)}>
        see through it
      </LiveWord>
      , {aided("blink", "let it blink")}, or {aided("divider", "drag a divider")}.
    </Words>
  );
}

const FEWEST_PAIRS = 2;

/** Return the pairs of points that are whole, as the service takes them. */
function useMatched(): NonNullable<AlignRequest["pairs"]> {
  const pairs = useMatching((matching) => matching.pairs);
  return pairs.flatMap(({ moving, fixed }) =>
    fixed ? [{ moving: [moving.x, moving.y], fixed: [fixed.x, fixed.y] }] : [],
  );
}

interface Alignment {
  /** 0..1; null where nothing is under way. */
  readonly progress: number | null;
  /** How sure the last one was. */
  readonly said: string | null;
  begin(request: AlignRequest): void;
  stop(): void;
}

function useAlignment(desk: DeskActions): Alignment {
  const [progress, setProgress] = useState<number | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const stopping = useRef(new AbortController());
  const take = (found: AlignFound, by: AlignRequest["by"]) => {
    desk.edit({
      kind: "place_layers",
      deed: "lined up",
      places: [{ layer_id: found.layer_id, placement: found.placement }],
    });
    setSaid(lineUpWords(by, found));
  };
  const begin = (request: AlignRequest) => {
    const mine = new AbortController();
    stopping.current = mine;
    const isStopped = () => mine.signal.aborted || desk.isLeft();
    setProgress(0);
    setSaid(null);
    alignment(desk.projectId, request, mine.signal, setProgress)
      .then((found) => found && !isStopped() && take(found, request.by))
      .catch((error: Error) => isStopped() || useMessages.getState().warn(error.message))
      .finally(() => mine.signal.aborted || setProgress(null));
  };
  const stop = () => {
    stopping.current.abort();
    setProgress(null);
  };
  return { progress, said, begin, stop };
}

function lineUpWords(by: AlignRequest["by"], { certainty, error }: AlignFound): string {
  if (by === "map") return "Lined up by their map coordinates.";
  const within = `within ${error.toFixed(1)} px`;
  if (by === "points") return `Lined up: the points lie ${within} of one another.`;
  return `Lined up, ${Math.round(certainty * 100)} % sure; what was matched lies ${within}.`;
}

/** Return where a photo comes to lie, or null where the work was stopped. */
async function alignment(
  project: string,
  request: AlignRequest,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<AlignFound | null> {
  const { known, waiting } = useProject.getState();
  if (!known) return null;
  const asked = { key: newId(), revision: known.head, unsaved: waiting, request };
  const { found, job } = await askForAlignment(project, asked);
  if (found || !job) return found;
  const stop = () => void cancelJob(job.id).catch(() => undefined);
  if (signal.aborted) stop();
  signal.addEventListener("abort", stop, { once: true });
  const end = await jobEnd(job.id, (one) => signal.aborted || onProgress(one.progress));
  if (end.state === "failed") throw new Error(end.error ?? "They could not be lined up.");
  return end.state === "done" ? (end.found as AlignFound | null) : null;
}

/** Make the sheet as large as what both photos lie over. */
function cutToShared(desk: DeskActions, composite: Composite, ids: readonly string[]): void {
  const edit = sharedFrame(composite, ids);
  if (edit) desk.edit(edit);
  else
    useMessages.getState().warn("These two lie over nothing in common; the sheet stays as it is.");
}
