/** What the file says of the picture; kept with the project. */

import { ABOUT } from "@generated/limits";
import { type ReactElement, useState } from "react";
import { Input, Label, TextArea, TextField } from "react-aria-components";
import styled from "styled-components";
import type { Finishing } from "@/features/finish/useFinishing";
import type { About } from "@/model/finishing";
import { color, font } from "@/theme/tokens";
import { Fields } from "@/ui/Fields";
import { Tick } from "@/ui/Tick";

const Field = styled(TextField)`
  display: grid;
  gap: 2px;

  label {
    color: ${color.softInk};
  }

  input,
  textarea {
    width: 100%;
    padding: 4px 8px;
    border: 1px solid ${color.rule};
    border-radius: 2px;
    background: ${color.sheet};
    color: ${color.ink};
    font-family: ${font.reading};
    resize: vertical;
  }
`;

const Says = styled.p`
  color: ${color.softInk};
`;

const LINES: readonly {
  readonly name: keyof About;
  readonly label: string;
  readonly rows: number;
}[] = [
  { name: "title", label: "Title", rows: 1 },
  { name: "author", label: "Made by", rows: 1 },
  { name: "description", label: "Description", rows: 2 },
  { name: "licence", label: "Licence", rows: 1 },
  { name: "alt", label: "What it shows, for those who do not see it", rows: 2 },
];

export function AboutSettings({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { settings, change, about, say } = finishing;
  const [draft, setDraft] = useState(about);
  return (
    <Fields>
      <Tick isSelected={settings.signed} onChange={(signed) => change({ signed })}>
        the file says this of itself
      </Tick>
      {LINES.map(({ name, label, rows }) => (
        <Field
          key={name}
          value={draft[name]}
          maxLength={ABOUT[name].maxLength}
          onChange={(text) => setDraft({ ...draft, [name]: text })}
          onBlur={() => {
            if (draft[name] !== about[name]) say(draft);
          }}
        >
          <Label>{label}</Label>
          {rows === 1 ? <Input /> : <TextArea rows={rows} />}
        </Field>
      ))}
      <Says>
        Nothing private goes out: no places, no cameras, no names of this machine. What is said here
        is kept with the picture.
      </Says>
    </Fields>
  );
}
