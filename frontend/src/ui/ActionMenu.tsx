/** A menu of things to do, and what its items look like wherever they stand. */

import type { ReactElement, ReactNode } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { Card } from "@/ui/LiveSelect";

const Items = styled(Menu)`
  outline: none;
`;

export const ActionItem = styled(MenuItem)`
  padding: 6px 14px;
  cursor: pointer;
  outline: none;

  &[data-focused] {
    background: ${color.well};
  }

  &[data-disabled] {
    opacity: 0.45;
    cursor: default;
  }
`;

/** Something that can be done. */
export interface Deed {
  readonly label: string;
  readonly isOff?: boolean;
  run(): void;
}

interface ActionMenuProps {
  /** What the button says. */
  readonly word: string;
  /** What it says more fully to screen readers, and its menu is called. */
  readonly label: string;
  /** In their order. */
  readonly deeds: readonly Deed[];
  /** Items that do more than one thing, after those. */
  readonly children?: ReactNode;
}

export function ActionMenu({ word, label, deeds, children }: ActionMenuProps): ReactElement {
  return (
    <MenuTrigger>
      <QuietButton aria-label={label}>{word}</QuietButton>
      <Card>
        <Items aria-label={label}>
          {deeds.map(({ label: deed, isOff = false, run }) => (
            <ActionItem key={deed} id={deed} isDisabled={isOff} onAction={run}>
              {deed}
            </ActionItem>
          ))}
          {children}
        </Items>
      </Card>
    </MenuTrigger>
  );
}
