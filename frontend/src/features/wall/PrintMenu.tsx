/** What else can be done with a print: loaded after the wall has shown. */

import type { ReactElement } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { Card } from "@/ui/LiveSelect";

const Choices = styled(Menu)`
  outline: none;
`;

const Choice = styled(MenuItem)`
  padding: 6px 14px;
  cursor: pointer;
  outline: none;

  &[data-focused] {
    background: ${color.well};
  }
`;

interface PrintMenuProps {
  readonly name: string;
  onRename(): void;
  onTakeDown(): void;
}

export function PrintMenu({ name, onRename, onTakeDown }: PrintMenuProps): ReactElement {
  return (
    <MenuTrigger>
      <QuietButton aria-label={`More for ${name}`}>More</QuietButton>
      <Card>
        <Choices
          aria-label={`More for ${name}`}
          onAction={(key) => (key === "rename" ? onRename() : onTakeDown())}
        >
          <Choice id="rename">Rename</Choice>
          <Choice id="take-down">Take off the wall</Choice>
        </Choices>
      </Card>
    </MenuTrigger>
  );
}
