/** Words that a plan sets: those that it proposes, or what somebody says in their place. */

import type { ReactElement } from "react";
import { Label, TextArea, TextField } from "react-aria-components";
import styled from "styled-components";
import type { Filling, PlanOffer } from "@/model/plans";
import { color, font } from "@/theme/tokens";

const Field = styled(TextField)`
  display: grid;
  gap: 4px;
`;

const Title = styled(Label)`
  font-family: ${font.name};
  font-size: 15px;
  font-weight: 680;
`;

const Suits = styled.p`
  font-family: ${font.reading};
  font-size: 14.5px;
`;

const Text = styled(TextArea)`
  width: 100%;
  padding: 8px 10px;
  border: 1px solid ${color.ruleStrong};
  border-radius: 2px;
  background: ${color.sheet};
  color: ${color.ink};
  font-family: ${font.reading};
  font-size: 15px;
  line-height: 1.4;
  resize: vertical;
`;

const LONGEST = 20_000;
const MOST_ROWS = 7;

interface WordsItemProps {
  readonly words: PlanOffer["words"][number];
  readonly filling: Filling;
  onChange(change: (filling: Filling) => Filling): void;
}

export function WordsItem({ words, filling, onChange }: WordsItemProps): ReactElement {
  const { name, title, suits, text } = words;
  const said = filling.words[name] ?? text;
  return (
    <li id={`slot-${name}`}>
      <Field
        value={said}
        maxLength={LONGEST}
        onChange={(value) =>
          onChange((now) => ({ ...now, words: { ...now.words, [name]: value } }))
        }
      >
        <Title>{title}</Title>
        {suits ? <Suits>{suits}</Suits> : null}
        <Text rows={Math.min(said.split("\n").length, MOST_ROWS)} />
      </Field>
    </li>
  );
}
