/** Cut: what of the layer shows, as a recipe of parts that is read from top to bottom. */

import { MASK } from "@generated/limits";
import { GripVertical } from "lucide-react";
import { type ReactElement, type RefObject, useEffect, useRef } from "react";
import { useDragAndDrop } from "react-aria-components";
import styled from "styled-components";
import { v4 as newId } from "uuid";
import { BackdropOffer, FindingNow } from "@/features/cut/BackdropOffer";
import { BrushSettings } from "@/features/cut/BrushSettings";
import { DrawingLine } from "@/features/cut/DrawingLine";
import { MatteSettings } from "@/features/cut/MatteSettings";
import { MendFacet } from "@/features/cut/MendFacet";
import { PartActions, PartSettings } from "@/features/cut/PartSettings";
import {
  allLayers,
  type Composite,
  isChanging,
  isLocked,
  isPlaced,
  type Layer,
  type Mask,
  type MaskPart,
  membersOf,
  type PhotoLayer,
  pathTo,
} from "@/model/composite";
import { type Drawn, drawLine, drawnKind, hasColours } from "@/model/drawing";
import { changePart, type JoinWord, newLayerPart, openPart } from "@/model/masks";
import { isRough, openMatte, ownMatte, roughLine } from "@/model/mattes";
import { isMending } from "@/model/mends";
import { brushPart, freshPart } from "@/model/strokes";
import { useDesk } from "@/state/desk";
import { useDrawing } from "@/state/drawing";
import { useComposite } from "@/state/project";
import { useCalmLive } from "@/state/useCalmLive";
import { color, font } from "@/theme/tokens";
import { Choice } from "@/ui/Choice";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { NumberGrid } from "@/ui/NumberGrid";
import { Handle, Line, Lines } from "@/ui/OrderedLines";
import { ColorWash } from "@/work/ColorWash";
import { takeBackdropAway } from "@/work/cutting/cutOut";
import { GroupBackdrops } from "@/work/cutting/ManyCuts";
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

const Words = styled.p`
  font-family: ${font.reading};
  font-size: 15px;
  line-height: 1.5;
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

const PERCENT = 100;

export function CutFacet({ layer }: { readonly layer: Layer }): ReactElement | null {
  const composite = useComposite();
  const isMendingNow = useDesk((desk) => isMending(layer, desk.line));
  if (!composite) return null;
  const isOff = isLocked(composite, layer.id);
  return (
    <>
      {isOff || layer.kind !== "mending" ? null : <MendFacet layer={layer} />}
      {layer.mask ? <Recipe layer={layer} mask={layer.mask} isOff={isOff} /> : null}
      {isOff || isMendingNow ? null : <Worked layer={layer} composite={composite} />}
      {isOff || layer.kind !== "photo" ? null : <MendFacet layer={layer} />}
    </>
  );
}

function Worked({ layer, composite }: AddLineProps): ReactElement {
  const part = useOpenPart(layer);
  const brush = useDesk((desk) => brushPart(layer, desk.line));
  const drawn = useDesk((desk) => drawnKind(desk.line));
  const isOpen = part !== undefined && (brush === null || brush === part.id);
  const words = useFocusKept(drawn);
  return (
    <>
      {drawn || brush ? null : <Backdrop composite={composite} layer={layer} />}
      {brush ? <InHand layer={layer} /> : null}
      {isOpen && !drawn ? <OpenPart layer={layer} part={part} /> : null}
      <div ref={words}>
        {drawn ? (
          <DrawingLine layer={layer} composite={composite} drawn={drawn} />
        ) : (
          <AddLine layer={layer} composite={composite} />
        )}
      </div>
      {layer.mask && !drawn ? <WholeLine layer={layer} mask={layer.mask} /> : null}
    </>
  );
}

/** The brush, and the colour that it paints with. */
function InHand({ layer }: { readonly layer: Layer }): ReactElement {
  return (
    <>
      {layer.kind === "color" ? <ColorWash layer={layer} isOff={false} /> : null}
      <BrushSettings />
    </>
  );
}

/** Offer to take the backdrop away, or, once rough strokes are to come, show their brush. */
function Backdrop({ composite, layer }: AddLineProps): ReactElement | null {
  if (layer.kind === "group") return <GroupBackdrops composite={composite} group={layer} />;
  return hasColours(layer) ? <PhotoBackdrop layer={layer} /> : null;
}

function PhotoBackdrop({ layer }: { readonly layer: PhotoLayer }): ReactElement | null {
  const isRoughNow = useDesk((desk) => isRough(layer, desk.line));
  const open = useDesk((desk) => openMatte(layer, desk.line));
  if (isRoughNow) return open ? null : <MatteSettings layer={layer} part={null} />;
  // Beside other parts it is one more way to go on, and is said with those.
  return layer.mask ? <FindingNow layer={layer} /> : <BackdropOffer layer={layer} />;
}

/** Keep the focus where words are exchanged for others: what had it is gone then. */
function useFocusKept(words: string | null): RefObject<HTMLDivElement | null> {
  const element = useRef<HTMLDivElement>(null);
  const before = useRef(words);
  useEffect(() => {
    const isLost = document.activeElement === document.body;
    if (before.current !== words && isLost) {
      element.current?.querySelector<HTMLElement>("[role=button],button")?.focus();
    }
    before.current = words;
  }, [words]);
  return element;
}

interface OpenPartProps {
  readonly layer: Layer;
  readonly part: MaskPart;
}

function OpenPart({ layer, part }: OpenPartProps): ReactElement {
  return (
    <>
      <PartSettings layer={layer} part={part} />
      <PartActions layer={layer} part={part} />
    </>
  );
}

function useOpenPart(layer: Layer | undefined): MaskPart | undefined {
  const line = useDesk((desk) => desk.line);
  return openPart(layer, line);
}

interface RecipeProps {
  readonly layer: Layer;
  readonly mask: Mask;
  readonly isOff: boolean;
}

function Recipe({ layer, mask, isOff }: RecipeProps): ReactElement {
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

interface AddLineProps {
  readonly layer: Layer;
  readonly composite: Composite;
}

function AddLine({ layer, composite }: AddLineProps): ReactElement {
  const desk = useDeskActions();
  const { openLine } = useDesk((state) => state.actions);
  const draw = (kind: Drawn) => {
    // Corners of an outline that was left half drawn belong to no other one.
    useDrawing.getState().setCorners([]);
    openLine(drawLine(kind));
  };
  const hold = (layer_id: string) => {
    const part = newLayerPart(layer_id);
    desk.edit({ kind: "add_part", layer_id: layer.id, part });
    openLine(part.id);
  };
  const around = pathTo(composite.layers, layer.id);
  const inside = allLayers(membersOf(layer));
  const readable = allLayers(composite.layers).filter(
    (one) => !isChanging(one) && !around.includes(one) && !inside.includes(one),
  );
  const others = allLayers(composite.layers).filter((one) => one.id !== layer.id && one.mask);
  return (
    <Words>
      {layer.mask ? "Go on " : "All of it shows. Cut it "}
      {layer.mask && hasColours(layer) && !ownMatte(layer) ? (
        <>
          <LiveWord onPress={() => takeBackdropAway(desk, layer)}>without its backdrop</LiveWord>,{" "}
          <LiveWord onPress={() => openLine(roughLine(newId()))}>by rough strokes</LiveWord>,{" "}
        </>
      ) : null}
      <LiveWord onPress={() => openLine(freshPart(newId()))}>by brush</LiveWord>, with{" "}
      <LiveWord onPress={() => draw("ellipse")}>a circle</LiveWord>,{" "}
      <LiveWord onPress={() => draw("rectangle")}>a rectangle</LiveWord> or{" "}
      <LiveWord onPress={() => draw("outline")}>an outline</LiveWord>
      {hasColours(layer) ? (
        <>
          , by <LiveWord onPress={() => draw("even")}>an even colour</LiveWord>
        </>
      ) : null}
      , or hold it in{" "}
      <LiveSelect
        label="Hold it in the shape of"
        value=""
        fallback="another layer"
        choices={readable.map((one) => ({ id: one.id, label: one.name }))}
        onChange={hold}
      />
      {others.length > 0 ? (
        <>
          , or take the cut of{" "}
          <LiveSelect
            label="Take the cut of"
            value=""
            fallback="another one"
            choices={others.map((one) => ({ id: one.id, label: one.name }))}
            onChange={(from_id) => desk.edit({ kind: "copy_mask", layer_id: layer.id, from_id })}
          />
        </>
      ) : null}
      .
    </Words>
  );
}

const WHOLE = [
  { id: "as", label: "as it is" },
  { id: "out", label: "inside out" },
] as const;
const SEEN = [
  { id: "hatched", label: "Picture" },
  { id: "mask", label: "Mask" },
  { id: "edge", label: "Edge" },
  { id: "rim", label: "Old rim" },
] as const;
const MOVING = [
  { id: "with", label: "with the layer" },
  { id: "alone", label: "not with the layer" },
] as const;

function WholeLine({ layer, mask }: { readonly layer: Layer; readonly mask: Mask }): ReactElement {
  const desk = useDeskActions();
  const live = useCalmLive();
  const { setLive, setMaskSeen } = useDesk((state) => state.actions);
  const seen = useDesk((state) => state.maskSeen);
  const isLive = live?.kind === "settle_mask" && live.layer_id === layer.id;
  const strength = isLive ? live.strength : mask.strength;
  const cleaned = isLive ? (live.cleaned ?? 0) : mask.cleaned;
  const settled = (changes: Partial<Settled>) => {
    const { inverted, strength, softened, grown, smoothed, cleaned } = mask;
    const kept = { inverted, strength, softened, grown, smoothed, cleaned };
    return { kind: "settle_mask", layer_id: layer.id, ...kept, ...changes } as const;
  };
  return (
    <>
      <Words>
        All of it{" "}
        <LiveSelect
          label="Turned inside out or not"
          value={mask.inverted ? "out" : "as"}
          choices={WHOLE}
          onChange={(id) => desk.edit(settled({ inverted: id === "out" }))}
        />
        {isPlaced(layer) ? (
          <>
            , moving{" "}
            <LiveSelect
              label="What it moves with"
              value={mask.linked ? "with" : "alone"}
              choices={MOVING}
              onChange={(id) =>
                desk.edit({ kind: "link_mask", layer_id: layer.id, linked: id === "with" })
              }
            />
          </>
        ) : null}
        .{" "}
        <LiveWord onPress={() => desk.edit({ kind: "drop_mask", layer_id: layer.id })}>
          Show all of it again
        </LiveWord>
        .
      </Words>
      <Choice label="What is seen" value={seen} choices={SEEN} onChange={setMaskSeen} />
      <Edge mask={mask} onTake={(changes) => desk.edit(settled(changes))} />
      {hasColours(layer) ? (
        <LabelledSlider
          label="Clean its edge"
          value={Math.round(cleaned * PERCENT)}
          min={0}
          max={100}
          unit="%"
          fallback={100}
          onChange={(percent) => setLive(settled({ cleaned: percent / PERCENT }))}
          onChangeEnd={(percent) => {
            setLive(null);
            if (percent / PERCENT !== mask.cleaned)
              desk.edit(settled({ cleaned: percent / PERCENT }));
          }}
        />
      ) : null}
      <LabelledSlider
        label="Strength"
        value={Math.round(strength * PERCENT)}
        min={0}
        max={100}
        unit="%"
        fallback={100}
        onChange={(percent) => setLive(settled({ strength: percent / PERCENT }))}
        onChangeEnd={(percent) => {
          setLive(null);
          if (percent / PERCENT !== mask.strength)
            desk.edit(settled({ strength: percent / PERCENT }));
        }}
      />
    </>
  );
}

type Settled = Pick<Mask, "inverted" | "strength" | "softened" | "grown" | "smoothed" | "cleaned">;

interface EdgeProps {
  readonly mask: Mask;
  onTake(changes: Partial<Settled>): void;
}

/** What is done with the edge of the whole, in the mask's own pixels. */
function Edge({ mask, onTake }: EdgeProps): ReactElement {
  const numbers = EDGES.map(({ label, of }) => ({
    label,
    value: mask[of],
    limits: MASK[of],
    onChange: (value: number) => onTake({ [of]: value }),
  }));
  return <NumberGrid numbers={numbers} />;
}

const EDGES = [
  { label: "Soften", of: "softened" },
  { label: "Grow", of: "grown" },
  { label: "Smooth", of: "smoothed" },
] as const;
