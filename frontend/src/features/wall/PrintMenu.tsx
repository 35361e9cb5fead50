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
  /** What else can be done with it, in the order of the menu. */
  readonly deeds: readonly Deed[];
}

export interface Deed {
  readonly label: string;
  run(): void;
}

export function PrintMenu({ name, deeds }: PrintMenuProps): ReactElement {
  return (
    <MenuTrigger>
      <QuietButton aria-label={`More for ${name}`}>More</QuietButton>
      <Card>
        <Choices aria-label={`More for ${name}`}>
          {deeds.map(({ label, run }) => (
            <Choice key={label} onAction={run}>
              {label}
            </Choice>
          ))}
        </Choices>
      </Card>
    </MenuTrigger>
  );
}
