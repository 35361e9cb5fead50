/** The history ruler: every edit a tick; drag back and look, let go and be there. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Redo2, Undo2 } from "lucide-react";
import {
  type PointerEvent,
  type ReactElement,
  type ReactNode,
  useEffect,
  useRef,
  useState,
} from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import { fetchHistory } from "@/api/calls";
import type { History, Tick } from "@/api/types";
import { Glimpse } from "@/features/ruler/Glimpse";
import { OtherWays, WaysFrom } from "@/features/ruler/OtherWays";
import { forksOf, marksOf, tickAt } from "@/model/ruling";
import { useDesk } from "@/state/desk/desk";
import { useProject } from "@/state/project";
import { color } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { useDeskActions } from "@/work/DeskContext";

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  flex: 1;
  min-width: 120px;
`;

/** What lies on the ruler's line: all places on it are shares of its length. */
const Whole = styled.div`
  position: relative;
  flex: 1;
  min-width: 60px;
`;

const Track = styled(SliderTrack)`
  position: relative;
  height: 36px;
  cursor: pointer;
`;

const Base = styled.div`
  position: absolute;
  inset: 28px 0 auto;
  height: 1px;
  background: ${color.ink};
`;

const Mark = styled.div`
  position: absolute;
  top: 22px;
  width: 1px;
  height: 6px;
  background: ${color.ink};

  &[data-ahead="true"] {
    background: ${color.ruleStrong};
  }
`;

/** A moment that has a name: a slip of paper standing on the line. */
const Slip = styled.div`
  position: absolute;
  top: 15px;
  width: 6px;
  height: 13px;
  border: 1px solid ${color.on};
  background: ${color.sheet};
  transform: translateX(-50%);
`;

const Pointer = styled(SliderThumb)`
  top: 22px;
  width: 13px;
  height: 10px;
  background: ${color.live};
  clip-path: polygon(0 0, 100% 0, 50% 100%);

  &[data-focus-visible] {
    height: 14px;
    outline: none;
    background: ${color.on};
  }
`;

const Caption = styled.div`
  position: absolute;
  top: -3px;
  overflow: hidden;
  max-width: 220px;
  color: ${color.softInk};
  font-size: 12px;
  text-overflow: ellipsis;
  white-space: nowrap;
  pointer-events: none;
`;

export function Ruler(): ReactElement {
  const desk = useDeskActions();
  const canUndo = useProject((project) => project.canUndo);
  const canRedo = useProject((project) => project.canRedo);
  const history = useHistory(desk.projectId);
  return (
    <Row>
      <QuietButton aria-label="Undo" isDisabled={!canUndo} onPress={desk.undo}>
        <Undo2 size={17} aria-hidden="true" />
      </QuietButton>
      <QuietButton aria-label="Do it again" isDisabled={!canRedo} onPress={desk.redo}>
        <Redo2 size={17} aria-hidden="true" />
      </QuietButton>
      {history ? <RulerScale history={history} /> : null}
      {history && history.other_ways.length > 0 ? <OtherWays ways={history.other_ways} /> : null}
    </Row>
  );
}

/** Return the project's history; after each change only what is new of it is asked for. */
function useHistory(projectId: string): History | undefined {
  const client = useQueryClient();
  const changes = useProject((project) => project.saved?.changes);
  const queryKey = ["history", projectId];
  const { data } = useQuery({
    queryKey,
    queryFn: () => fetchHistory(projectId, client.getQueryData<History>(queryKey)),
  });
  const asked = useRef(changes);
  useEffect(() => {
    if (asked.current === changes) return;
    asked.current = changes;
    void client.invalidateQueries({ queryKey: ["history", projectId] });
  }, [client, projectId, changes]);
  return data;
}

function RulerScale({ history }: { readonly history: History }): ReactElement {
  const { ticks } = history;
  // Where it stands already, though the service may not have answered yet.
  const shown = useProject((project) => project.known?.head);
  const placeOf = (id: string | undefined) => ticks.findIndex((tick) => tick.id === id);
  const here = Math.max(0, placeOf(shown) < 0 ? placeOf(history.head) : placeOf(shown));
  const [place, setPlace] = useState(here);
  const [pointed, setPointed] = useState<number | null>(null);
  const [dragged, setDragged] = useState<number | null>(null);
  useEffect(() => setPlace(here), [here]);
  const last = Math.max(ticks.length - 1, 1);
  const share = (tick: number) => `${(tick / last) * 100}%`;
  const seen = dragged ?? pointed;
  const glimpsed = seen === null ? undefined : ticks[seen];
  const follow = (event: PointerEvent) =>
    setPointed(tickAt(event.clientX, event.currentTarget.getBoundingClientRect(), ticks.length));
  return (
    <Whole onPointerMove={follow} onPointerLeave={() => setPointed(null)}>
      <TickSlider
        history={history}
        here={here}
        place={place}
        onDrag={(tick) => {
          if (tick !== null) setPlace(tick);
          setDragged(tick);
        }}
      >
        <Caption style={{ left: share(place), transform: `translateX(-${share(place)})` }}>
          {captionOf(ticks[place])}
        </Caption>
        <Base />
        {marksOf(ticks.length).map((tick) => (
          <Mark key={tick} data-ahead={tick > place} style={{ left: share(tick) }} />
        ))}
        {ticks.map((tick, index) =>
          tick.name === null ? null : (
            <Slip key={tick.id} title={tick.name} style={{ left: share(index) }} />
          ),
        )}
      </TickSlider>
      {forksOf(history).map((fork) => (
        <WaysFrom key={fork.tick} ways={fork.ways} left={share(fork.tick)} />
      ))}
      {glimpsed && seen !== null && ticks.length > 1 ? (
        <Glimpse tick={glimpsed} left={share(seen)} />
      ) : null}
    </Whole>
  );
}

const captionOf = (tick: Tick | undefined) => tick?.name ?? tick?.label ?? "";

interface TickSliderProps {
  readonly history: History;
  readonly here: number;
  readonly place: number;
  readonly children: ReactNode;
  /** Hears which tick is dragged to, and null once it is let go. */
  onDrag(tick: number | null): void;
}

function TickSlider({ history, here, place, children, onDrag }: TickSliderProps): ReactElement {
  const desk = useDeskActions();
  const { lookAt } = useDesk((state) => state.actions);
  const { ticks } = history;
  return (
    <Slider
      aria-label="History"
      minValue={0}
      maxValue={Math.max(ticks.length - 1, 1)}
      step={1}
      isDisabled={ticks.length < 2}
      value={place}
      onChange={(next) => {
        onDrag(next as number);
        lookAt(ticks[next as number]?.id ?? null);
      }}
      onChangeEnd={(next) => {
        onDrag(null);
        lookAt(null);
        const tick = ticks[next as number];
        if (tick && next !== here) desk.stand(tick.id);
      }}
    >
      <Track>
        {children}
        <Pointer aria-label={`History: ${captionOf(ticks[place])}`} />
      </Track>
    </Slider>
  );
}
