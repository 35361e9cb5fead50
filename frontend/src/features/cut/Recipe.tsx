/** The parts of a mask, one a line, in their order. */

import { GripVertical } from "lucide-react";
import type { ReactElement } from "react";
import { useDragAndDrop } from "react-aria-components";
import styled from "styled-components";
import type { Layer, Mask, MaskPart } from "@/model/composite";
import { changePart, type JoinWord, openPart } from "@/model/masks";
import { useDesk } from "@/state/desk/desk";
import { color } from "@/theme/tokens";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { Handle, Line, Lines } from "@/ui/OrderedLines";
import { useDeskActions } from "@/work/DeskContext";
import { useSentence } from "@/work/useSentence";

/** A part's joining word stands in a column of its own. */
const PartLine = styled(Line)`
  grid-template-columns: 16px 82px 1fr;

  &[data-open="true"] {
    border-left-color: ${color.veil};
    background: ${color.veilWash};
  }
`;

const JOINS: readonly { id: JoinWord; label: string }[] = [
  { id: "add", label: "and" },
  { id: "take", label: "without" },
  { id: "keep", label: "only inside" },
];
/** The first line has nothing before it to join. */
const FIRST_JOINS: readonly { id: JoinWord; label: string }[] = [
  { id: "add", label: "only" },
  { id: "take", label: "without" },
];

/** Strokes change what is there: all of it, or nothing. */
const PAINTED_JOINS: readonly { id: JoinWord; label: string }[] = [
  { id: "add", label: "only" },
  { id: "keep", label: "all, and" },
];

interface RecipeProps {
  readonly layer: Layer;
  readonly mask: Mask;
  readonly isOff: boolean;
}

export function Recipe({ layer, mask, isOff }: RecipeProps): ReactElement {
  const desk = useDeskActions();
  const { recipe } = useSentence(layer);
  const open = useOpenPart(layer);
  const { openLine } = useDesk((state) => state.actions);
  const move = (id: string, index: number) =>
    desk.edit({ kind: "move_part", layer_id: layer.id, part_id: id, index });
  const { dragAndDropHooks } = useDragAndDrop({
    isDisabled: isOff,
    getItems: (keys) => [...keys].map((key) => ({ "text/plain": String(key) })),
    onReorder: ({ keys, target }) => {
      const [moved] = [...keys].map(String);
      const others = mask.parts.filter((part) => part.id !== moved);
      const at = others.findIndex((part) => part.id === target.key);
      if (moved) move(moved, target.dropPosition === "after" ? at + 1 : at);
    },
  });
  const change = (part: MaskPart, changes: Partial<Pick<MaskPart, "join" | "works">>) =>
    desk.edit(changePart(layer, { ...part, ...changes }));
  return (
    <Lines
      aria-label={`What of ${layer.name} shows, part by part`}
      items={mask.parts}
      dependencies={[recipe, open, isOff]}
      dragAndDropHooks={dragAndDropHooks}
      keyboardNavigationBehavior="tab"
    >
      {(part: MaskPart) => {
        const place = mask.parts.indexOf(part);
        const words = recipe[place] ?? part.kind;
        return (
          <PartLine
            id={part.id}
            textValue={words}
            data-open={part.id === open?.id}
            data-off={!part.works}
          >
            <Handle slot="drag" aria-label={`Move ${words}`}>
              <GripVertical size={13} aria-hidden="true" />
            </Handle>
            <span>
              <JoinWords
                part={part}
                place={place}
                words={words}
                onChange={(join) => change(part, { join })}
              />
            </span>
            <span>
              {part.inverted ? "all but " : ""}
              <LiveWord isExpanded={part.id === open?.id} onPress={() => openLine(part.id)}>
                {words}
              </LiveWord>
              {part.works ? "" : ". Off."}
            </span>
          </PartLine>
        );
      }}
    </Lines>
  );
}

interface JoinWordsProps {
  readonly part: MaskPart;
  readonly place: number;
  readonly words: string;
  onChange(join: JoinWord): void;
}

/** How a part joins what stands before it; strokes in a later line always do as they are. */
function JoinWords({ part, place, words, onChange }: JoinWordsProps): ReactElement {
  const isPainted = part.kind === "painted";
  if (isPainted && place > 0) return <>and</>;
  return (
    <LiveSelect
      label={`How ${words} joins what stands before it`}
      value={part.join}
      choices={isPainted ? PAINTED_JOINS : place === 0 ? FIRST_JOINS : JOINS}
      onChange={(join) => onChange(join as JoinWord)}
    />
  );
}

/** Return the part that is worked on. */
export function useOpenPart(layer: Layer | undefined): MaskPart | undefined {
  const line = useDesk((desk) => desk.line);
  return openPart(layer, line);
}
