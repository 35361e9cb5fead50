/** What a layer has several of, as lines of words: dragged, switched off, opened one by one. */

import { GripVertical } from "lucide-react";
import type { ReactElement } from "react";
import { useDragAndDrop } from "react-aria-components";
import { LiveWord } from "@/ui/LiveWord";
import { Handle, Line, Lines } from "@/ui/OrderedLines";

export interface WordLine {
  readonly words: string;
  readonly works: boolean;
}

interface WordLinesProps {
  readonly label: string;
  readonly lines: readonly WordLine[];
  /** The place of the open one. */
  readonly open: number | null;
  readonly isOff: boolean;
  onOpen(place: number | null): void;
  /** Put the line at one place before the one at another. */
  onMove(from: number, to: number): void;
}

interface Placed extends WordLine {
  readonly id: string;
}

export function WordLines(props: WordLinesProps): ReactElement {
  const { label, lines, open, isOff, onOpen, onMove } = props;
  const { dragAndDropHooks } = useDragAndDrop({
    isDisabled: isOff,
    getItems: (keys) => [...keys].map((key) => ({ "text/plain": String(key) })),
    onReorder: ({ keys, target }) =>
      onMove(Number([...keys][0]), Number(target.key) + (target.dropPosition === "after" ? 1 : 0)),
  });
  return (
    <Lines
      aria-label={label}
      items={lines.map((line, place) => ({ ...line, id: String(place) }))}
      dependencies={[open, isOff]}
      dragAndDropHooks={dragAndDropHooks}
      keyboardNavigationBehavior="tab"
    >
      {({ id, words, works }: Placed) => (
        <Line id={id} textValue={words} data-open={id === String(open)} data-off={!works}>
          <Handle slot="drag" aria-label={`Move ${words}`}>
            <GripVertical size={13} aria-hidden="true" />
          </Handle>
          <span>
            <LiveWord
              isExpanded={id === String(open)}
              onPress={() => onOpen(id === String(open) ? null : Number(id))}
            >
              {words}
            </LiveWord>
            {works ? "" : ". Off."}
          </span>
        </Line>
      )}
    </Lines>
  );
}
