/** A live word that offers other words in its place. */

import type { ReactElement } from "react";
import { Button, ListBox, ListBoxItem, Popover, Select, SelectValue } from "react-aria-components";
import styled from "styled-components";
import { color, font } from "@/theme/tokens";

interface Choice {
  readonly id: string;
  readonly label: string;
}

interface LiveSelectProps {
  readonly label: string;
  /** None is chosen where it is empty: `fallback` stands there then. */
  readonly value: string;
  readonly fallback?: string;
  readonly choices: readonly Choice[];
  /** What stands in the sentence, where that is not the chosen one's label. */
  readonly shown?: string;
  onChange(id: string): void;
}

const Inline = styled(Select)`
  display: inline;
`;

const Word = styled(Button)`
  display: inline;
  padding: 0;
  border: 0;
  background: none;
  color: ${color.live};
  font: inherit;
  cursor: pointer;
  text-decoration: underline;
  text-decoration-color: ${color.liveRule};
  text-decoration-thickness: 1px;
  text-underline-offset: 4px;

  &[data-hovered] {
    text-decoration-color: currentColor;
  }
`;

export const Card = styled(Popover)`
  padding: 4px;
  border: 1px solid ${color.ruleStrong};
  border-radius: 2px;
  background: ${color.sheet};
  color: ${color.ink};
  box-shadow: 0 6px 20px rgb(0 0 0 / 18%);
  outline: none;
`;

const Choices = styled(ListBox)`
  max-height: 360px;
  overflow: auto;
  outline: none;
  font-family: ${font.reading};
`;

const Item = styled(ListBoxItem)`
  padding: 6px 12px;
  border-radius: 2px;
  cursor: pointer;
  outline: none;

  &[data-focused] {
    background: ${color.well};
  }

  &[data-selected] {
    color: ${color.on};
    font-weight: 650;
  }
`;

export function LiveSelect(props: LiveSelectProps): ReactElement {
  const { label, value, fallback, choices, shown, onChange } = props;
  return (
    <Inline
      aria-label={label}
      value={value || null}
      onChange={(key) => {
        if (key !== null) onChange(String(key));
      }}
    >
      <Word>
        <SelectValue>{({ selectedText }) => shown ?? (selectedText || fallback)}</SelectValue>
      </Word>
      <Card>
        <Choices>
          {choices.map((choice) => (
            <Item key={choice.id} id={choice.id} textValue={choice.label}>
              {choice.label}
            </Item>
          ))}
        </Choices>
      </Card>
    </Inline>
  );
}
