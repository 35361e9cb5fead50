/** Other ways through the history: where they leave this one, and all of them in a list. */

import type { ReactElement } from "react";
import { Button, Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { previewUrl } from "@/api/calls";
import type { Way } from "@/api/types";
import { WayMark } from "@/features/ruler/WayMark";
import { sayCount, sayWhen } from "@/model/wording";
import { color } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { Card } from "@/ui/LiveSelect";
import { useDeskActions } from "@/work/DeskContext";

const Choices = styled(Menu)`
  width: 270px;
  max-height: 380px;
  overflow: auto;
  outline: none;
`;

const Item = styled(MenuItem)`
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 0 12px;
  align-items: center;
  padding: 6px 8px;
  cursor: pointer;
  outline: none;

  img {
    grid-row: 1 / 3;
    width: 84px;
    height: 62px;
    background: ${color.well};
    object-fit: contain;
  }

  small {
    align-self: start;
    color: ${color.softInk};
  }

  &[data-focused] {
    background: ${color.well};
  }
`;

/** Left out where the ruler needs its room. */
const Roomy = styled.span`
  @media (max-width: 1180px) {
    display: none;
  }
`;

const Fork = styled(Button)`
  position: absolute;
  top: 27px;
  z-index: 1;
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  margin-left: -12px;
  padding: 0;
  border: 0;
  background: none;
  color: ${color.softInk};
  cursor: pointer;

  &[data-hovered] {
    color: ${color.live};
  }
`;

interface WaysProps {
  readonly ways: readonly Way[];
}

export function OtherWays({ ways }: WaysProps): ReactElement {
  return (
    <MenuTrigger>
      <QuietButton aria-label={sayCount(ways.length, "other way")}>
        <WayMark size={15} />
        {ways.length}
        <Roomy>{ways.length === 1 ? "other way" : "other ways"}</Roomy>
      </QuietButton>
      <WaysMenu ways={ways} />
    </MenuTrigger>
  );
}

interface WaysFromProps extends WaysProps {
  /** Where they leave, as a share of the ruler. */
  readonly left: string;
}

/** A single way is gone at once; of several, one is chosen. */
export function WaysFrom({ ways, left }: WaysFromProps): ReactElement {
  const desk = useDeskActions();
  const [only] = ways;
  const icon = <WayMark size={13} />;
  if (ways.length === 1 && only) {
    const label = `Go the other way: ${nameOf(only)}`;
    return (
      <Fork aria-label={label} style={{ left }} onPress={() => desk.stand(only.id)}>
        {icon}
      </Fork>
    );
  }
  return (
    <MenuTrigger>
      <Fork aria-label={`${sayCount(ways.length, "other way")} from here`} style={{ left }}>
        {icon}
      </Fork>
      <WaysMenu ways={ways} />
    </MenuTrigger>
  );
}

function WaysMenu({ ways }: WaysProps): ReactElement {
  const desk = useDeskActions();
  return (
    <Card>
      <Choices aria-label="Other ways" onAction={(key) => desk.stand(String(key))}>
        {ways.map((way) => (
          <Item key={way.id} id={way.id} textValue={nameOf(way)}>
            <img src={previewUrl(desk.projectId, way.id, 168)} alt="" loading="lazy" />
            {nameOf(way)}
            <small>
              {sayCount(way.edits, "edit")} of its own, {sayWhen(way.at)}
            </small>
          </Item>
        ))}
      </Choices>
    </Card>
  );
}

const nameOf = (way: Way) => way.name ?? way.label;
