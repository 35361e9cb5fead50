/** The open part of a recipe by its numbers, whatever its kind. */

import { ELLIPSE_PART, RECTANGLE_PART } from "@generated/limits";
import type { ReactElement, ReactNode } from "react";
import { EvenSettings, OutlineSettings } from "@/features/cut/DrawnSettings";
import { MatteSettings } from "@/features/cut/MatteSettings";
import type { Layer, MaskPart } from "@/model/composite";
import { hasColours } from "@/model/drawing";
import { changePart, type ShapePart } from "@/model/masks";
import { useDesk } from "@/state/desk/desk";
import { useCalmLive } from "@/state/useCalmLive";
import { PlainButton, QuietButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { FieldRow, Fields } from "@/ui/Fields";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { NumberGrid } from "@/ui/NumberGrid";
import { Tick } from "@/ui/Tick";
import { useDeskActions } from "@/work/DeskContext";
import { useKeepShape } from "@/work/useKeepShape";

/** The slider's end; wider edges can be typed. */
const USUAL_SOFTNESS = 400;
const EVENLY = 0.05;

interface PartSettingsProps {
  readonly layer: Layer;
  readonly part: MaskPart;
}

/** What can be changed about a part of its kind; nothing for what only its strokes change. */
export function PartSettings({ layer, part }: PartSettingsProps): ReactElement | null {
  switch (part.kind) {
    case "ellipse":
    case "rectangle":
      return <ShapeSettings layer={layer} part={part} />;
    case "outline":
      return <OutlineSettings layer={layer} part={part} />;
    case "even":
      return <EvenSettings layer={layer} part={part} />;
    case "matte":
      return hasColours(layer) && part.picture === layer.picture ? (
        <MatteSettings layer={layer} part={part} />
      ) : null;
    case "layer":
      return <LayerPartSettings layer={layer} part={part} />;
    default:
      return null;
  }
}

interface ShapeSettingsProps {
  readonly layer: Layer;
  readonly part: ShapePart;
}

function ShapeSettings({ layer, part: kept }: ShapeSettingsProps): ReactElement {
  const desk = useDeskActions();
  const live = useCalmLive();
  const { setLive } = useDesk((state) => state.actions);
  const isLive = live?.kind === "change_part" && live.part.id === kept.id;
  const part = isLive && live.part.kind === kept.kind ? (live.part as ShapePart) : kept;
  const take = (changes: Partial<ShapePart>) => {
    setLive(null);
    desk.edit(changePart(layer, { ...kept, ...changes } as ShapePart));
  };
  const most = Math.max(USUAL_SOFTNESS, part.softness);
  const isEven = Math.abs(part.width - part.height) < EVENLY;
  return (
    <Fields>
      <LabelledSlider
        label="Softness"
        value={Math.round(part.softness)}
        min={0}
        max={most}
        unit="px"
        fallback={0}
        onChange={(softness) => setLive(changePart(layer, { ...kept, softness }))}
        onChangeEnd={(softness) => take({ softness })}
      />
      <ShapeNumbers part={part} onTake={take}>
        <PlainButton isDisabled={isEven} onPress={() => take({ height: part.width })}>
          {part.kind === "ellipse" ? "Make it a circle" : "Make it a square"}
        </PlainButton>
      </ShapeNumbers>
    </Fields>
  );
}

interface ShapeNumbersProps {
  readonly part: ShapePart;
  /** What stands after the last number. */
  readonly children: ReactNode;
  onTake(changes: Partial<ShapePart>): void;
}

function ShapeNumbers({ part, children, onTake }: ShapeNumbersProps): ReactElement {
  const numbers = SHAPE_NUMBERS.map(({ of, ...shown }) => ({
    ...shown,
    value: part[of],
    limits: ELLIPSE_PART[of],
    onChange: (value: number) => onTake({ [of]: value }),
  }));
  const corner = part.kind === "rectangle" && {
    label: "Corners",
    value: part.corner,
    limits: RECTANGLE_PART.corner,
    onChange: (value: number) => onTake({ corner: value }),
  };
  return <NumberGrid numbers={corner ? [...numbers, corner] : numbers}>{children}</NumberGrid>;
}

const SHAPE_NUMBERS = [
  { label: "Across", of: "x" },
  { label: "Down", of: "y" },
  { label: "Width", of: "width" },
  { label: "Height", of: "height" },
  { label: "Turn", of: "turn", unit: "°" },
] as const;

interface PartActionsProps {
  readonly layer: Layer;
  readonly part: MaskPart;
}

/** What can be done with any part: switch it off, turn it inside out, take it away. */
export function PartActions({ layer, part }: PartActionsProps): ReactElement {
  const desk = useDeskActions();
  const { openLine } = useDesk((state) => state.actions);
  return (
    <Fields>
      <FieldRow>
        <Tick
          isSelected={part.works}
          onChange={(works) => desk.edit(changePart(layer, { ...part, works }))}
        >
          Switched on
        </Tick>
        <Tick
          isSelected={part.inverted}
          onChange={(inverted) => desk.edit(changePart(layer, { ...part, inverted }))}
        >
          Inside out
        </Tick>
        <QuietButton
          onPress={() => {
            desk.edit({ kind: "remove_part", layer_id: layer.id, part_id: part.id });
            openLine(null);
          }}
        >
          Take it away
        </QuietButton>
      </FieldRow>
    </Fields>
  );
}

const QUALITIES = [
  { id: "shape", label: "Its shape" },
  { id: "lightness", label: "How light it is" },
] as const;

interface LayerPartSettingsProps {
  readonly layer: Layer;
  readonly part: Extract<MaskPart, { kind: "layer" }>;
}

function LayerPartSettings({ layer, part }: LayerPartSettingsProps): ReactElement {
  const desk = useDeskActions();
  const { keep, isUnderWay } = useKeepShape(layer, part);
  return (
    <Fields>
      <Choice
        label="What of that layer counts"
        value={part.quality}
        choices={QUALITIES}
        onChange={(quality) =>
          quality !== part.quality && desk.edit(changePart(layer, { ...part, quality }))
        }
      />
      <FieldRow>
        <PlainButton isDisabled={isUnderWay} onPress={keep}>
          {isUnderWay ? "Keeping it…" : "Keep it as it is now"}
        </PlainButton>
      </FieldRow>
    </Fields>
  );
}
