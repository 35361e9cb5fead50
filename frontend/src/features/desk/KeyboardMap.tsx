/** The map of all keys. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { SHORTCUTS } from "@/features/desk/useKeyboard";
import { useSettings } from "@/state/settings";
import { color } from "@/theme/tokens";
import { Sheet } from "@/ui/Sheet";
import { Tick } from "@/ui/Tick";

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

const Setting = styled.div`
  margin-bottom: 12px;
  padding-bottom: 12px;
  border-bottom: 1px solid ${color.rule};
`;

interface KeyboardMapProps {
  readonly isOpen: boolean;
  onClose(): void;
}

export function KeyboardMap({ isOpen, onClose }: KeyboardMapProps): ReactElement {
  const { plainKeys, setPlainKeys } = useSettings();
  return (
    <Sheet title="What the keys do" isOpen={isOpen} onClose={onClose}>
      <Setting>
        <Tick isSelected={plainKeys} onChange={setPlainKeys}>
          Keys without Control work, wherever nothing is typed
        </Tick>
      </Setting>
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
