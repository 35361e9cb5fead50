/** The history ruler: every edit a tick; drag back and look, let go and be there. */

import { useQuery } from "@tanstack/react-query";
import { GitFork, Redo2, Undo2 } from "lucide-react";
import { type ReactElement, useEffect, useState } from "react";
import {
  Menu,
  MenuItem,
  MenuTrigger,
  Slider,
  SliderThumb,
  SliderTrack,
} from "react-aria-components";
import styled from "styled-components";
import { fetchHistory } from "@/api/calls";
import type { History, Way } from "@/api/types";
import { useDeskActions } from "@/features/desk/DeskContext";
import { sayCount, sayWhen } from "@/model/wording";
import { useDesk } from "@/state/desk";
import { useProject } from "@/state/project";
import { color } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { Card } from "@/ui/LiveSelect";

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  flex: 1;
  min-width: 120px;
`;

const Scale = styled(Slider)`
  flex: 1;
  min-width: 60px;
`;

const Track = styled(SliderTrack)`
  position: relative;
  height: 40px;
  cursor: pointer;
`;

const Base = styled.div`
  position: absolute;
  inset: 30px 0 auto;
  height: 1px;
  background: ${color.ink};
`;

const Mark = styled.div`
  position: absolute;
  top: 23px;
  width: 1px;
  height: 7px;
  background: ${color.ink};

  &[data-ahead="true"] {
    background: ${color.ruleStrong};
  }
`;

const Pointer = styled(SliderThumb)`
  top: 33px;
  width: 13px;
  height: 10px;
  background: ${color.live};
  clip-path: polygon(50% 0, 100% 100%, 0 100%);

  &[data-focus-visible] {
    height: 14px;
    outline: none;
    background: ${color.on};
  }
`;

const Caption = styled.div`
  position: absolute;
  top: 2px;
  overflow: hidden;
  max-width: 220px;
  color: ${color.softInk};
  font-size: 12px;
  text-overflow: ellipsis;
  white-space: nowrap;
  pointer-events: none;
`;

const Choices = styled(Menu)`
  max-height: 320px;
  overflow: auto;
  outline: none;
`;

const Item = styled(MenuItem)`
  display: grid;
  padding: 6px 12px;
  cursor: pointer;
  outline: none;

  small {
    color: ${color.softInk};
  }

  &[data-focused] {
    background: ${color.well};
  }
`;

/** More ticks than this would run into one another; then only some are drawn. */
const MOST_MARKS = 90;

export function Ruler(): ReactElement {
  const desk = useDeskActions();
  const head = useProject((project) => project.known?.head);
  const canUndo = useProject(
    (project) => Boolean(project.known?.undo_to) || project.waiting.length > 0,
  );
  const canRedo = useProject((project) => Boolean(project.known?.redo_to));
  const history = useQuery({
    queryKey: ["history", desk.projectId, head],
    queryFn: () => fetchHistory(desk.projectId),
    placeholderData: (before) => before,
  });
  return (
    <Row>
      <QuietButton aria-label="Undo" isDisabled={!canUndo} onPress={desk.undo}>
        <Undo2 size={17} aria-hidden="true" />
      </QuietButton>
      <QuietButton aria-label="Do it again" isDisabled={!canRedo} onPress={desk.redo}>
        <Redo2 size={17} aria-hidden="true" />
      </QuietButton>
      {history.data ? <RulerScale history={history.data} /> : null}
      {history.data && history.data.other_ways.length > 0 ? (
        <OtherWays ways={history.data.other_ways} />
      ) : null}
    </Row>
  );
}

function RulerScale({ history }: { readonly history: History }): ReactElement {
  const desk = useDeskActions();
  const { lookAt } = useDesk((state) => state.actions);
  const here = Math.max(
    0,
    history.ticks.findIndex((tick) => tick.id === history.head),
  );
  const [place, setPlace] = useState(here);
  useEffect(() => setPlace(here), [here]);
  const last = Math.max(history.ticks.length - 1, 1);
  const share = place / last;
  const label = history.ticks[place]?.label ?? "";
  return (
    <Scale
      aria-label="History"
      minValue={0}
      maxValue={last}
      step={1}
      isDisabled={history.ticks.length < 2}
      value={place}
      onChange={(next) => {
        setPlace(next as number);
        lookAt(history.ticks[next as number]?.id ?? null);
      }}
      onChangeEnd={(next) => {
        const tick = history.ticks[next as number];
        lookAt(null);
        if (tick && tick.id !== history.head) desk.stand(tick.id);
      }}
    >
      <Track>
        <Caption
          style={{
            left: `${share * 100}%`,
            transform: `translateX(-${share * 100}%)`,
          }}
        >
          {label}
        </Caption>
        <Base />
        {marksOf(history.ticks.length).map((tick) => (
          <Mark key={tick} data-ahead={tick > place} style={{ left: `${(tick / last) * 100}%` }} />
        ))}
        <Pointer aria-label={`History: ${label}`} />
      </Track>
    </Scale>
  );
}

function marksOf(ticks: number): number[] {
  const every = Math.ceil(ticks / MOST_MARKS);
  return Array.from({ length: Math.ceil(ticks / every) }, (_, mark) => mark * every);
}

function OtherWays({ ways }: { readonly ways: readonly Way[] }): ReactElement {
  const desk = useDeskActions();
  return (
    <MenuTrigger>
      <QuietButton>
        <GitFork size={15} aria-hidden="true" />
        {sayCount(ways.length, "other way")}
      </QuietButton>
      <Card>
        <Choices aria-label="Other ways" onAction={(key) => desk.stand(String(key))}>
          {ways.map((way) => (
            <Item key={way.id} id={way.id} textValue={way.label}>
              {way.label}
              <small>
                {sayCount(way.edits, "edit")}, {sayWhen(way.at)}
              </small>
            </Item>
          ))}
        </Choices>
      </Card>
    </MenuTrigger>
  );
}
