/** For what the picture is finished: each purpose sets everything. */

import { type ReactElement, useRef, useState } from "react";
import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";
import { addPurpose, forgetPurpose } from "@/api/calls";
import type { Finishing } from "@/features/finish/useFinishing";
import type { Purpose } from "@/model/finishing";
import { useMessages } from "@/state/messages";
import { color, font } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { LiveWord } from "@/ui/LiveWord";
import { NameField } from "@/ui/NameField";

const Names = styled(ToggleButtonGroup)`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 10px;
  padding-bottom: 14px;
  border-bottom: 1px solid ${color.rule};
`;

const One = styled(ToggleButton)`
  position: relative;
  overflow: hidden;
  padding: 3px 0;
  border: 0;
  background: none;
  font-family: ${font.reading};
  font-size: 16.5px;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;

  &[data-hovered] {
    color: ${color.on};
  }

  &[data-selected] {
    color: ${color.on};
    font-weight: 700;
  }

  &[data-selected]::before {
    content: "";
    position: absolute;
    inset: 4px auto 4px -12px;
    width: 3px;
    background: ${color.on};
  }
`;

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
  align-items: center;
  margin-top: -6px;
  color: ${color.softInk};
  font-size: 14px;
`;

const LONGEST_NAME = 60;

export function Purposes({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { purposes, purpose, choose } = finishing;
  return (
    <>
      <Names
        aria-label="What it is finished for"
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={[purpose.id]}
        onSelectionChange={(keys) => {
          const next = purposes.find(({ id }) => keys.has(id));
          if (next) choose(next);
        }}
      >
        {purposes.map(({ id, title }) => (
          <One key={id} id={id}>
            {title}
          </One>
        ))}
      </Names>
      <Remembered finishing={finishing} purpose={purpose} />
    </>
  );
}

interface RememberedProps {
  readonly finishing: Finishing;
  readonly purpose: Purpose;
}

/** What can be done with a purpose: named, handed on, set back. */
function Remembered({ finishing, purpose }: RememberedProps): ReactElement {
  const [naming, setNaming] = useState(false);
  const warn = useMessages((messages) => messages.warn);
  const chooser = useRef<HTMLInputElement>(null);
  const { settings, choose, refreshPurposes } = finishing;
  const told = (error: Error) => warn(error.message);
  const forget = () => forgetPurpose(purpose.id).then(refreshPurposes).catch(told);
  const add = async (name: string, kept = settings) => {
    const added = await addPurpose(name, kept);
    await refreshPurposes();
    choose(added);
  };
  const bring = (file: File) =>
    file
      .text()
      .then((text) => readPurpose(text))
      .then(({ name, settings: kept }) => add(name, kept))
      .catch(told);
  if (naming) {
    return (
      <NameField
        longest={LONGEST_NAME}
        label="Name of this purpose"
        name=""
        onName={(name) => void add(name).catch(told)}
        onLeave={() => setNaming(false)}
      />
    );
  }
  return (
    <Line>
      <LiveWord onPress={() => setNaming(true)}>keep as one of my own</LiveWord>·
      <LiveWord onPress={() => handOn(purpose, settings)}>hand it on</LiveWord>·
      <LiveWord onPress={() => chooser.current?.click()}>bring one in</LiveWord>
      {purpose.is_changed ? (
        <>
          ·<LiveWord onPress={() => void forget()}>as it was at first</LiveWord>
        </>
      ) : null}
      {purpose.is_own ? (
        <QuietButton onPress={() => void forget()}>Take it away</QuietButton>
      ) : null}
      <input
        ref={chooser}
        type="file"
        accept=".json,application/json"
        hidden
        onChange={(event) => {
          const [file] = event.currentTarget.files ?? [];
          event.currentTarget.value = "";
          if (file) void bring(file);
        }}
      />
    </Line>
  );
}

/** Save a purpose as a small file. */
function handOn({ title }: Purpose, settings: Finishing["settings"]): void {
  const name = title.replace("…", "");
  const file = { kind: "glyphaneme-purpose", version: 1, name, settings };
  const url = URL.createObjectURL(
    new Blob([`${JSON.stringify(file, null, 2)}\n`], { type: "application/json" }),
  );
  const link = document.createElement("a");
  link.href = url;
  link.download = `${name.replace(/\W+/g, "-")}.json`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/** Read a purpose's file as far as it can be told here that it is one. */
function readPurpose(text: string): { name: string; settings: Finishing["settings"] } {
  try {
    const { kind, name, settings } = JSON.parse(text);
    if (kind === "glyphaneme-purpose" && typeof name === "string") return { name, settings };
  } catch {
    // Said below.
  }
  throw new Error("This file holds no purpose. Nothing was kept; bring one that was handed on.");
}
