/** The map of all keys. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { SHORTCUTS } from "@/features/desk/useKeyboard";
import { color } from "@/theme/tokens";
import { Sheet } from "@/ui/Sheet";

const List = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 18px;
`;

const Keys = styled.dt`
  font-weight: 650;
  white-space: nowrap;
`;

const Does = styled.dd`
  color: ${color.softInk};
`;

interface KeyboardMapProps {
  readonly isOpen: boolean;
  onClose(): void;
}

export function KeyboardMap({ isOpen, onClose }: KeyboardMapProps): ReactElement {
  return (
    <Sheet title="What the keys do" isOpen={isOpen} onClose={onClose}>
      <List>
        {SHORTCUTS.map(({ keys, does }) => (
          <div key={keys} style={{ display: "contents" }}>
            <Keys>{keys}</Keys>
            <Does>{does}</Does>
          </div>
        ))}
      </List>
    </Sheet>
  );
}
