/** One of a few, all in sight. */

import type { ReactElement } from "react";
import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";

interface ChoiceProps<Id extends string> {
  readonly label: string;
  readonly value: Id | null;
  readonly choices: readonly { readonly id: Id; readonly label: string }[];
  readonly isDisabled?: boolean;
  onChange(id: Id): void;
}

const Row = styled(ToggleButtonGroup)`
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
`;

const One = styled(ToggleButton)`
  flex: 1;
  padding: 5px 8px;
  border: 1px solid ${color.rule};
  border-radius: 2px;
  background: ${color.paper};
  color: ${color.ink};
  cursor: pointer;
  white-space: nowrap;

  &[data-hovered] {
    border-color: ${color.ruleStrong};
  }

  &[data-selected] {
    border-color: ${color.on};
    background: ${color.on};
    color: ${color.onInk};
    font-weight: 650;
  }

  &[data-disabled] {
    opacity: 0.5;
    cursor: default;
  }
`;

export function Choice<Id extends string>(props: ChoiceProps<Id>): ReactElement {
  return (
    <Row
      aria-label={props.label}
      selectionMode="single"
      isDisabled={props.isDisabled ?? false}
      selectedKeys={props.value === null ? [] : [props.value]}
      onSelectionChange={(keys) => {
        const [picked] = keys;
        // Taking the chosen one again keeps it.
        props.onChange((picked ?? props.value) as Id);
      }}
    >
      {props.choices.map((choice) => (
        <One key={choice.id} id={choice.id}>
          {choice.label}
        </One>
      ))}
    </Row>
  );
}
