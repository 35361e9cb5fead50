/** The map of all keys: grouped by what one is doing, found by typing, set by the person. */

import { type KeyboardEvent, type ReactElement, useState } from "react";
import styled from "styled-components";
import {
  askedStrokes,
  type DeedId,
  FIXED_KEYS,
  KEY_DEEDS,
  KEY_GROUPS,
  type KeyDeed,
  type KeyGroup,
  type OwnKeys,
  sayStroke,
  strokesFor,
} from "@/model/keys";
import { useDesk } from "@/state/desk/desk";
import type { Facet } from "@/state/desk/selection";
import { useOwnKeys } from "@/state/ownKeys";
import { useSettings } from "@/state/settings";
import { color } from "@/theme/tokens";
import { PlainButton, QuietButton } from "@/ui/Button";
import { FindField } from "@/ui/FindField";
import { Sheet } from "@/ui/Sheet";
import { Tick } from "@/ui/Tick";

const Top = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 8px 20px;
  margin-bottom: 8px;
`;

const Group = styled.section`
  padding: 10px 0 2px;

  h3 {
    padding-bottom: 4px;
    border-bottom: 1px solid ${color.rule};
    color: ${color.softInk};
    font-size: 13px;
    font-weight: 650;
  }
`;

const Rows = styled.ul`
  columns: 2 320px;
  column-gap: 28px;
`;

const Row = styled.li`
  display: grid;
  grid-template-columns: 124px minmax(0, 1fr);
  gap: 12px;
  align-items: center;
  min-height: 32px;
  padding: 2px 0;
  break-inside: avoid;
  line-height: 1.25;
`;

const Key = styled(PlainButton)`
  padding: 3px 8px;
  font-weight: 650;

  &[data-own="true"] {
    border-color: ${color.on};
    color: ${color.on};
  }
`;

const Fixed = styled.span`
  padding: 3px 0;
  font-weight: 650;
  font-size: 13px;
`;

const Does = styled.span`
  color: ${color.softInk};
`;

const Nothing = styled.p`
  padding: 24px 0;
  color: ${color.softInk};
`;

interface KeyboardMapProps {
  readonly isOpen: boolean;
  onClose(): void;
}

export function KeyboardMap({ isOpen, onClose }: KeyboardMapProps): ReactElement {
  return (
    <Sheet title="What the keys do" width={860} isOpen={isOpen} onClose={onClose}>
      <AllKeys />
    </Sheet>
  );
}

function AllKeys(): ReactElement {
  const { plainKeys, setPlainKeys } = useSettings();
  const facet = useDesk((desk) => (desk.openLayer === null ? null : desk.facet));
  const { own, forget } = useOwnKeys();
  const [wanted, setWanted] = useState("");
  const [listening, listen] = useState<DeedId | null>(null);
  const groups = KEY_GROUPS.toSorted((one, other) => rank(one.id, facet) - rank(other.id, facet))
    .map((group) => ({ ...group, lines: linesOf(group.id, own, wanted) }))
    .filter(({ lines }) => lines.length > 0);
  return (
    <>
      <Top>
        <FindField
          label="Find a key or what it does"
          width={240}
          value={wanted}
          onChange={setWanted}
        />
        <Tick isSelected={plainKeys} onChange={setPlainKeys}>
          Keys without Control work
        </Tick>
        <QuietButton isDisabled={Object.keys(own).length === 0} onPress={forget}>
          Set all keys back
        </QuietButton>
      </Top>
      <Does>Press a key here to set another one for it. Backspace there takes it away.</Does>
      {groups.map(({ id, title, lines }) => (
        <Group key={id} aria-label={title}>
          <h3>{title}</h3>
          <Rows>
            {lines.map((line) => (
              <Row key={line.does}>
                {line.deed ? (
                  <KeySetting
                    deed={line.deed}
                    isListening={listening === line.deed.id}
                    listen={listen}
                  />
                ) : (
                  <Fixed>{line.keys}</Fixed>
                )}
                <Does>{line.does}</Does>
              </Row>
            ))}
          </Rows>
        </Group>
      ))}
      {groups.length === 0 ? <Nothing>No key does that.</Nothing> : null}
    </>
  );
}

/** What belongs to the open facet comes first. */
function rank(group: KeyGroup, facet: Facet | null): number {
  if (facet !== null && group === FIRST[facet]) return -1;
  return KEY_GROUPS.findIndex(({ id }) => id === group);
}

const FIRST: Partial<Record<Facet, KeyGroup>> = { place: "place", cut: "cut", fade: "cut" };

interface Line {
  readonly keys: string;
  readonly does: string;
  /** What can be set; nothing where it stays as it is. */
  readonly deed?: KeyDeed;
}

function linesOf(group: KeyGroup, own: OwnKeys, wanted: string): readonly Line[] {
  const deeds: readonly KeyDeed[] = KEY_DEEDS;
  const settable = deeds.map((deed) => ({ ...deed, keys: sayKeys(deed, own), deed }));
  return [...settable, ...FIXED_KEYS].filter((line) => line.group === group && fits(line, wanted));
}

function sayKeys(deed: KeyDeed, own: OwnKeys): string {
  const said = strokesFor(deed, own).map(sayStroke);
  return said.length === 0 ? "no key" : `${said[0]}${deed.isHeld ? ", held" : ""}`;
}

/** Tell whether a line has all words that are looked for; one letter means a key. */
function fits({ keys, does }: Line, wanted: string): boolean {
  const words = wanted.trim().toLowerCase().split(/\s+/);
  const [only = ""] = words;
  if (words.length === 1 && only.length === 1) {
    return (
      keys
        .toLowerCase()
        .split(/[\s,]+/)
        .includes(only) || keys.toLowerCase() === only
    );
  }
  const text = `${keys} ${does}`.toLowerCase();
  return words.every((word) => text.includes(word));
}

interface KeySettingProps {
  readonly deed: KeyDeed;
  readonly isListening: boolean;
  listen(id: DeedId | null): void;
}

/** The key of one deed; pressed, it waits for another key. */
function KeySetting({ deed, isListening, listen }: KeySettingProps): ReactElement {
  const { own, set } = useOwnKeys();
  const said = sayKeys(deed, own);
  const hear = (event: KeyboardEvent) => {
    if (!isListening || event.key === "Tab") return;
    event.preventDefault();
    event.stopPropagation();
    const asked = askedStrokes(event, deed.id);
    if (asked) set(deed.id, asked);
    if (asked || event.key === "Escape") listen(null);
  };
  return (
    // Keys are heard before the button takes them as presses.
    <span onKeyDownCapture={hear}>
      <Key
        aria-label={isListening ? `Press a key for: ${deed.does}` : `${said}: ${deed.does}`}
        aria-pressed={isListening}
        data-own={said !== sayKeys(deed, {})}
        onPress={() => listen(isListening ? null : deed.id)}
        onBlur={() => listen(null)}
      >
        {isListening ? "press a key…" : said}
      </Key>
    </span>
  );
}
