/** The file as one sentence; each live word changes what it says, or opens its settings. */

import type { ReactElement, ReactNode } from "react";
import styled from "styled-components";
import type { Finishing } from "@/features/finish/useFinishing";
import {
  articleOf,
  COLOR_CHOICES,
  COMPARED_AS,
  type ColorSpace,
  type ComparedAs,
  comparedIn,
  type FileFormat,
  FORMATS,
  hasDeep,
  hasInk,
  hasQuality,
  isLayered,
  isShownByBrowsers,
  needsMatte,
  sayBytes,
  sayFormat,
  sayPart,
  saySize,
  withFormat,
} from "@/model/finishing";
import { sayLength } from "@/model/wording";
import { useSettings } from "@/state/settings";
import { font } from "@/theme/tokens";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";

export type Opened =
  | "quality"
  | "size"
  | "paper"
  | "color"
  | "limit"
  | "ground"
  | "part"
  | "about"
  | "tiles";

const Text = styled.p`
  font-family: ${font.reading};
  font-size: 19px;
  line-height: 1.5;
  overflow-wrap: anywhere;
`;

interface FileSentenceProps {
  readonly finishing: Finishing;
  readonly opened: Opened | null;
  onOpen(opened: Opened | null): void;
}

export function FileSentence(props: FileSentenceProps): ReactElement {
  const { settings, change, part, project } = props.finishing;
  const word = (opened: Opened, text: ReactNode) => (
    <LiveWord
      isExpanded={props.opened === opened}
      onPress={() => props.onOpen(props.opened === opened ? null : opened)}
    >
      {text}
    </LiveWord>
  );
  const isCompared = part.what === "compare";
  const written = isCompared ? comparedIn(settings.format) : settings.format;
  const format = (
    <LiveSelect
      label="Format"
      value={written}
      choices={isCompared ? FORMATS.filter(({ id }) => isShownByBrowsers(id)) : FORMATS}
      shown={sayFormat(written)}
      onChange={(id) => change(withFormat(settings, id as FileFormat))}
    />
  );
  if (part.what === "compare") {
    return (
      <Text>
        {word("part", "Before and after")}, as {sayCompared(part.compare.made_as)}, of pictures in{" "}
        {format}
        <Look {...props} word={word} />
        <Signed {...props} word={word} />.
      </Text>
    );
  }
  if (isLayered(settings.format)) {
    return (
      <Text>
        {articleOf(settings.format)} {format} with every layer as its own picture, of{" "}
        {word(
          "part",
          part.what === "chosen" ? sayPart(part, project.composite.layers) : "all of it",
        )}
        . Opened here again, all is as it was.
      </Text>
    );
  }
  return (
    <Text>
      {articleOf(settings.format)} {format}
      <Look {...props} word={word} />, <Colors {...props} word={word} />
      <Words {...props} />, {word("part", sayPart(part, project.composite.layers))}
      <Signed {...props} word={word} />.
    </Text>
  );
}

interface PhraseProps extends FileSentenceProps {
  word(opened: Opened, text: ReactNode): ReactNode;
}

/** How good, how large, on what. */
function Look({ finishing, word }: PhraseProps): ReactElement {
  const { settings, facts } = finishing;
  const unit = usePaperUnit();
  return (
    <>
      {hasQuality(settings) ? <> of {word("quality", `quality ${settings.quality}`)}</> : null}
      {!hasQuality(settings) && settings.exact ? (
        <> with {word("quality", "every pixel exact")}</>
      ) : null}
      {hasDeep(settings.format) ? <> with {word("quality", `${settings.bits} bits`)}</> : null},{" "}
      {word("size", facts ? saySize(settings, facts, unit) : "…")}
      {settings.ground ? <> on {word("ground", sayGround(settings.ground))}</> : null}
      {finishing.part.what === "compare" ? null : (
        <>
          <Limit finishing={finishing} word={word} />
          <Paper finishing={finishing} word={word} />
        </>
      )}
    </>
  );
}

function Limit({ finishing, word }: Pick<PhraseProps, "finishing" | "word">): ReactElement | null {
  const { most_bytes } = finishing.settings;
  return most_bytes === null ? null : <>, {word("limit", `under ${sayBytes(most_bytes)}`)}</>;
}

function Paper({ finishing, word }: Pick<PhraseProps, "finishing" | "word">): ReactElement | null {
  const { format, paper, tiling } = finishing.settings;
  if (format !== "pdf" && paper.bleed_mm === 0) return null;
  if (tiling) return <> over {word("tiles", "several sheets of paper")}</>;
  const bleed = paper.bleed_mm > 0 ? `${sayLength(paper.bleed_mm)} mm bleed` : "no bleed";
  const marks = paper.marks ? " and crop marks" : "";
  return <> with {word("paper", `${bleed}${marks}`)}</>;
}

function Colors({ finishing, word }: PhraseProps): ReactElement {
  const { settings, change, profiles } = finishing;
  const { coloring } = settings;
  const choices = COLOR_CHOICES.filter(({ id }) => id !== "ink" || hasInk(settings.format));
  const profile = profiles.find(({ id }) => id === coloring.profile);
  return (
    <>
      in{" "}
      <LiveSelect
        label="Colours"
        value={coloring.space}
        choices={choices}
        onChange={(id) => change({ coloring: { ...coloring, space: id as ColorSpace } })}
      />
      {coloring.space === "ink" ? <> ({word("color", profile?.name ?? "a profile")})</> : null}
      {needsMatte(settings) && finishing.project.composite.canvas.background === null ? (
        <> over {word("ground", "a colour")}</>
      ) : null}
    </>
  );
}

const LETTERS = [
  { id: "letters", label: "letters, to be selected" },
  { id: "lines", label: "lines, without fonts" },
  { id: "pixels", label: "pixels, as they are seen" },
] as const;

function Words({ finishing }: FileSentenceProps): ReactElement | null {
  const { settings, change, project } = finishing;
  const hasWords = project.composite.layers.some(({ kind }) => kind === "words");
  if (settings.format !== "pdf" || !hasWords) return null;
  return (
    <>
      , its words as{" "}
      <LiveSelect
        label="Its words"
        value={settings.letters}
        choices={LETTERS}
        shown={settings.letters}
        onChange={(id) => change({ letters: id as (typeof LETTERS)[number]["id"] })}
      />
    </>
  );
}

function Signed({ finishing, word }: PhraseProps): ReactElement {
  const { settings, about } = finishing;
  const isSilent = !settings.signed || Object.values(about).every((text) => text === "");
  if (isSilent) return <>, {word("about", "unsigned")}</>;
  return <>, signed {word("about", about.author || about.title || "with words")}</>;
}

const sayCompared = (made: ComparedAs): string =>
  COMPARED_AS.find(({ id }) => id === made)?.label ?? made;

function sayGround(ground: { across: number; down: number; color: string }): string {
  const shape = ground.across === ground.down ? "a square" : `${ground.across} : ${ground.down}`;
  const white = ground.color === "#ffffff";
  return `${shape} of ${white ? "white" : ground.color}`;
}

/** The unit that lengths on paper are told in. */
export function usePaperUnit(): "cm" | "in" {
  return useSettings(({ unit }) => (unit === "in" ? "in" : "cm"));
}
