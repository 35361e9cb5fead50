/**
 * The field in which words are typed: the browser's own, laid exactly over what the stage
 * shows of them. Its letters are clear; its caret, its selection and what it says to
 * screen readers are the browser's.
 */

import { type ReactElement, type RefObject, useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { type Composite, layerById, type WordsLayer } from "@/model/composite";
import { planeToCanvas } from "@/model/geometry";
import { onCanvas } from "@/model/nesting";
import { canvasToStage, type StageView } from "@/model/viewing";
import { alignShare, LONGEST_TEXT, wordsEdit } from "@/model/words";
import { useDesk } from "@/state/desk/desk";
import { expectedComposite } from "@/state/project";
import { useTyping } from "@/state/typing";
import { useDeskActions } from "@/work/DeskContext";
import { faceName } from "@/work/useFonts";

/** What is typed is one step of the history for each pause as long as this. */
const PAUSE_MS = 700;

const Field = styled.textarea`
  position: absolute;
  top: 0;
  left: 0;
  min-width: 4px;
  margin: 0;
  padding: 0;
  border: 0;
  overflow: hidden;
  outline: none;
  background: none;
  color: transparent;
  caret-color: #9c3a24;
  field-sizing: content;
  font-optical-sizing: none;
  resize: none;
  transform-origin: 0 0;
  white-space: pre;

  &::selection {
    background: rgb(26 101 95 / 45%);
  }

  /* Along a bend the letters lie elsewhere: the field stands beside them and shows its own. */
  &[data-apart] {
    top: auto;
    bottom: 16px;
    left: 50%;
    min-width: 240px;
    max-width: 80%;
    max-height: 40%;
    padding: 8px 12px;
    border: 1px solid var(--rule-strong);
    overflow: auto;
    background: var(--sheet);
    color: var(--ink);
    transform: translateX(-50%);
    white-space: pre-wrap;
  }
`;

interface TypingFieldProps {
  readonly composite: Composite;
  readonly view: StageView;
}

/** Show the field while words are typed, also before the service has their layer. */
export function TypingField(props: TypingFieldProps): ReactElement | null {
  const layerId = useTyping((typing) => typing.layerId);
  const isOpen = useDesk((desk) => desk.openLayer === layerId);
  return isOpen && layerId !== null ? <OpenField key={layerId} id={layerId} {...props} /> : null;
}

interface OpenFieldProps extends TypingFieldProps {
  readonly id: string;
}

function OpenField({ id, composite, view }: OpenFieldProps): ReactElement {
  const field = useRef<HTMLTextAreaElement>(null);
  const { text, type, end } = useTyped(id);
  useFocusFirst(field);
  const layer = wordsIn(composite, id);
  const isApart = layer !== null && liesElsewhere(layer);
  return (
    <Field
      ref={field}
      aria-label="What the words say"
      data-apart={isApart || undefined}
      dir="auto"
      maxLength={LONGEST_TEXT}
      // Where the browser does not size it by what it holds.
      cols={Math.max(...text.split("\n").map((line) => line.length), 1) + 1}
      rows={text.split("\n").length}
      spellCheck
      style={isApart || !layer ? {} : styleOver(layer, composite, view)}
      value={text}
      onChange={(event) => type(event.currentTarget.value)}
      onBlur={end}
      onKeyDown={(event) => {
        if (event.key !== "Escape" || event.nativeEvent.isComposing) return;
        event.stopPropagation();
        field.current?.blur();
      }}
      onPointerDown={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
    />
  );
}

/** Tell whether letters do not lie where a field can lie over them. */
function liesElsewhere({ placement, words }: WordsLayer): boolean {
  const isWarped = placement.corners !== null || placement.bend !== null;
  return isWarped || words.setting.form.kind !== "straight";
}

/** Hold what is typed; show it at once, and save it at each pause and at the end. */
function useTyped(id: string) {
  const desk = useDeskActions();
  const [text, setText] = useState(() => wordsNow(id)?.words.setting.text ?? "");
  const pause = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const unsaved = useRef<string | null>(null);
  const { setLive } = useDesk.getState().actions;

  const save = () => {
    clearTimeout(pause.current);
    if (unsaved.current === null) return;
    const now = wordsNow(id);
    if (!now) {
      // What is typed before the service has answered is saved after that.
      pause.current = setTimeout(save, PAUSE_MS);
      return;
    }
    desk.edit(wordsEdit(now, { setting: { text: unsaved.current } }));
    unsaved.current = null;
    setLive(null);
  };
  const type = (typed: string) => {
    setText(typed);
    unsaved.current = typed;
    const now = wordsNow(id);
    if (now) setLive(wordsEdit(now, { setting: { text: typed } }));
    clearTimeout(pause.current);
    pause.current = setTimeout(save, PAUSE_MS);
  };
  const end = () => {
    save();
    useTyping.getState().end();
    const now = wordsNow(id);
    // Emptied words take their layer away.
    if (now && now.words.setting.text.trim() === "") {
      desk.edit({ kind: "remove_layer", layer_id: id });
    }
  };
  const ended = useRef(end);
  ended.current = end;
  // Also where another layer is opened, or the desk is left.
  useEffect(() => () => ended.current(), []);
  return { text, type, end };
}

function wordsNow(id: string): WordsLayer | null {
  const composite = expectedComposite();
  return composite && wordsIn(composite, id);
}

function wordsIn(composite: Composite, id: string): WordsLayer | null {
  const layer = layerById(composite, id);
  return layer?.kind === "words" ? layer : null;
}

function useFocusFirst(field: RefObject<HTMLTextAreaElement | null>): void {
  useEffect(() => {
    const element = field.current;
    element?.focus({ preventScroll: true });
    element?.setSelectionRange(element.value.length, element.value.length);
  }, [field]);
}

/** Lay the field over the block of a straight layer, letter over letter. */
function styleOver(layer: WordsLayer, composite: Composite, view: StageView) {
  const lifted = onCanvas(composite, layer);
  const { setting } = layer.words;
  const [left, top, right] = layer.measure.block;
  const share = alignShare(setting.align);
  // Where the words' own pixels come to lie on the stage: a corner, and a step each way.
  const seen = (x: number, y: number) =>
    canvasToStage(view, planeToCanvas(lifted, { x: x / layer.width, y: y / layer.height }));
  const home = seen(left + share * (right - left), top);
  const across = seen(left + share * (right - left) + 1, top);
  const down = seen(left + share * (right - left), top + 1);
  const matrix = [
    across.x - home.x,
    across.y - home.y,
    down.x - home.x,
    down.y - home.y,
    home.x,
    home.y,
  ];
  return {
    transform: `matrix(${matrix.join(", ")}) translateX(${-share * 100}%)`,
    fontFamily: setting.fonts.map(({ id }) => `"${faceName(id)}"`).join(", "),
    fontSize: `${setting.size}px`,
    lineHeight: setting.line_gap,
    letterSpacing: `${setting.letter_gap}em`,
    textAlign: CSS_ALIGN[setting.align],
    fontVariantLigatures: setting.ligatures ? ("normal" as const) : ("none" as const),
    fontFeatureSettings: setting.features.map((one) => `"${one}"`).join(", ") || "normal",
    ...(setting.width === null
      ? {}
      : { width: `${setting.width}px`, whiteSpace: "pre-wrap" as const }),
  };
}

const CSS_ALIGN = { left: "left", middle: "center", right: "right", both: "justify" } as const;
