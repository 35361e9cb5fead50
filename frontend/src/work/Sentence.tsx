/** A sentence with live words: each opens what it speaks of. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { font } from "@/theme/tokens";
import { LiveWord } from "@/ui/LiveWord";
import type { SentencePart } from "@/work/useSentence";

export type Touch = SentencePart["touch"];

const Line = styled.p`
  flex: 1;
  min-width: 0;
  font-family: ${font.reading};
  font-size: 15.5px;
  line-height: 1.42;
  overflow-wrap: anywhere;
`;

const GLOSS: Readonly<Partial<Record<Touch, string>>> = {
  lettering: "how it is set",
  wash: "its colours",
  place: "where it lies",
  crop: "open its frame",
  corners: "open its corners",
  bend: "open its grid",
  cut: "what of it shows",
  fade: "how it fades out",
  blend: "how it joins what lies beneath",
  tone: "its tones",
  shown: "show it again",
  lock: "unlock it",
  sheet: "size and colour of the sheet",
};

/** What opens nothing. */
const READ: ReadonlySet<Touch> = new Set(["kind", "words"]);

interface SentenceProps {
  readonly parts: readonly SentencePart[];
  readonly isOpen: boolean;
  onTouch(touch: Touch): void;
  onClose(): void;
}

export function Sentence({ parts, isOpen, onTouch, onClose }: SentenceProps): ReactElement {
  return (
    <Line>
      {parts.map((part, index) => {
        const key = `${index} ${part.text}`;
        if (READ.has(part.touch)) return <span key={key}>{part.text}</span>;
        if (part.touch === "name") {
          return (
            <LiveWord
              key={key}
              isName
              isExpanded={isOpen}
              onPress={() => (isOpen ? onClose() : onTouch("name"))}
            >
              {part.text}
            </LiveWord>
          );
        }
        const gloss = GLOSS[part.touch];
        return (
          <LiveWord
            key={key}
            label={gloss ? `${part.text}: ${gloss}` : part.text}
            onPress={() => onTouch(part.touch)}
          >
            {part.text}
          </LiveWord>
        );
      })}
    </Line>
  );
}
