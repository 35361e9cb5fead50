/** A name that is changed in place: Enter keeps it, Escape keeps the old one. */

import { type ReactElement, useState } from "react";
import { FocusScope } from "react-aria";
import { Input, TextField } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";

interface NameFieldProps {
  readonly label: string;
  readonly name: string;
  readonly longest: number;
  onName(name: string): void;
  onLeave(): void;
}

const Box = styled(Input)`
  width: 100%;
  padding: 2px 6px;
  border: 1px solid ${color.on};
  border-radius: 2px;
  background: ${color.sheet};
  color: ${color.ink};
  outline: none;
`;

export function NameField(props: NameFieldProps): ReactElement {
  const [draft, setDraft] = useState(props.name);
  const finish = (keep: boolean) => {
    const name = draft.trim();
    if (keep && name && name !== props.name) props.onName(name);
    props.onLeave();
  };
  return (
    // Whoever asked for the field has the focus again once it is gone.
    <FocusScope restoreFocus>
      <TextField
        aria-label={props.label}
        value={draft}
        onChange={setDraft}
        maxLength={props.longest}
        // The field appears because its name was asked for.
        autoFocus
        onBlur={() => finish(true)}
        onKeyDown={(event) => {
          if (event.key === "Enter") finish(true);
          if (event.key === "Escape") finish(false);
        }}
      >
        <Box onFocus={(event) => event.currentTarget.select()} />
      </TextField>
    </FocusScope>
  );
}
