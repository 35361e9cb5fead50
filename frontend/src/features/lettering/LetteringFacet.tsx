/** Words: what they say, in which font, how they are set and inked. */

import { SETTING } from "@generated/limits";
import { useQueryClient } from "@tanstack/react-query";
import type { ReactElement } from "react";
import styled from "styled-components";
import { putAwayFont } from "@/api/calls";
import { ContourSettings } from "@/features/lettering/ContourSettings";
import { FormSettings } from "@/features/lettering/FormSettings";
import { InkSettings } from "@/features/lettering/InkSettings";
import { PanelSettings } from "@/features/lettering/PanelSettings";
import { useWords, type WordsSetting } from "@/features/lettering/useWords";
import type { WordsLayer } from "@/model/composite";
import { onCanvas } from "@/model/nesting";
import { fromPixels, inPixels, type Unit } from "@/model/sizes";
import { type Align, type Feature, formWord, stylesOf } from "@/model/words";
import { useDesk } from "@/state/desk/desk";
import { useMessages } from "@/state/messages";
import { useComposite } from "@/state/project";
import { useSettings } from "@/state/settings";
import { PlainButton } from "@/ui/Button";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { NumberBox } from "@/ui/NumberBox";
import { NumberSliders } from "@/ui/NumberSliders";
import { FacetWords } from "@/ui/Words";
import { typeWords } from "@/work/lettering";
import { useFontFacts, useFonts } from "@/work/useFonts";

const Numbers = styled.div`
  display: grid;
  gap: 6px;

  > * {
    justify-content: space-between;
  }

  [role="group"] {
    flex: none;
    width: 104px;
  }
`;

/** Beside the facet's name, where the clause of other facets stands. */
const Said = styled(FacetWords)`
  margin: -27px 0 2px 76px;
`;

const ALIGNS: readonly { readonly id: Align; readonly label: string }[] = [
  { id: "left", label: "aligned left" },
  { id: "middle", label: "centred" },
  { id: "right", label: "aligned right" },
  { id: "both", label: "justified" },
];

const FEATURE_WORDS: Readonly<Record<Feature, string>> = {
  smcp: "small capitals",
  onum: "old-style figures",
  tnum: "even figures",
  swsh: "swashes",
};

type Line = "form" | "ink" | "contour" | "panel";

interface LetteringFacetProps {
  readonly layer: WordsLayer;
}

export function LetteringFacet({ layer }: LetteringFacetProps): ReactElement {
  const setting = useWords(layer);
  const line = useDesk((desk) => desk.line);
  return (
    <>
      <SettingWords {...setting} />
      {line === "form" ? <FormSettings {...setting} /> : null}
      {line === "ink" ? <InkSettings {...setting} /> : null}
      {line === "contour" ? <ContourSettings {...setting} /> : null}
      {line === "panel" ? <PanelSettings {...setting} /> : null}
      <SizeNumbers {...setting} />
      <FontFeatures {...setting} />
      <AxisSliders {...setting} />
      <OwnFont {...setting} />
      <PlainButton isDisabled={setting.isOff} onPress={() => typeWords(layer)}>
        Type on the stage
      </PlainButton>
    </>
  );
}

function SettingWords({ layer, words, take }: WordsSetting): ReactElement {
  const { setting, ink, contour, panel } = words;
  const fonts = useFonts();
  const styles = stylesOf(fonts, setting.fonts[0]?.id);
  const { lent, lacking } = layer.measure;
  return (
    <Said>
      in{" "}
      {styles.length > 1 ? (
        <LiveSelect
          label="Style of the font"
          value={setting.fonts[0]?.id ?? ""}
          fallback={setting.fonts[0]?.name ?? ""}
          choices={styles.map(({ id, name }) => ({ id, label: name }))}
          onChange={(id) => {
            const font = styles.find((one) => one.id === id);
            if (font) take({ setting: { fonts: [{ id, name: font.name }], axes: [] } });
          }}
        />
      ) : (
        setting.fonts[0]?.name
      )}
      ,{" "}
      <LiveSelect
        label="How lines are aligned"
        value={setting.align}
        choices={ALIGNS}
        onChange={(align) => take({ setting: { align: align as Align } })}
      />
      , <Part line="form">{formWord(setting.form)}</Part>, <Part line="ink">{inkWord(ink)}</Part>,{" "}
      <Part line="contour">{contour ? `outlined ${contour.side}` : "without an outline"}</Part>,{" "}
      <Part line="panel">{panel ? "on a panel" : "without a panel"}</Part>
      {lent.length > 0 ? `; some letters are lent by ${lent.join(", ")}` : ""}
      {lacking ? `; no font has ${[...lacking].join(" ")}` : ""}.
    </Said>
  );
}

function inkWord(ink: WordsSetting["words"]["ink"]): string {
  if (ink === null) return "see-through";
  return ink.kind === "plain" ? "inked with one colour" : "inked with a gradient";
}

interface PartProps {
  readonly line: Line;
  readonly children: string;
}

/** A word that unfolds its settings beneath the sentence. */
function Part({ line, children }: PartProps): ReactElement {
  const isOpen = useDesk((desk) => desk.line === line);
  const { openLine } = useDesk((desk) => desk.actions);
  return (
    <LiveWord isExpanded={isOpen} onPress={() => openLine(isOpen ? null : line)}>
      {children}
    </LiveWord>
  );
}

const PERCENT = 100;
const GAPS = [
  { field: "letter_gap", label: "Between letters" },
  { field: "line_gap", label: "Between lines" },
] as const;
const PER_INCH = { mm: 25.4, pt: 72 } as const;
type LetterUnit = keyof typeof PER_INCH | "px";

/** How high letters are told: millimetres where the sheet is told in centimetres. */
function letterUnit(unit: Unit): LetterUnit {
  if (unit === "cm") return "mm";
  return unit === "in" ? "pt" : "px";
}

function SizeNumbers({ layer, words, isOff, take }: WordsSetting): ReactElement | null {
  const composite = useComposite();
  const unit = letterUnit(useSettings(({ unit: chosen }) => chosen));
  if (!composite) return null;
  const { setting } = words;
  const scale = onCanvas(composite, layer).placement.scale_y;
  const { ppi } = composite.canvas;
  const perPixel = unit === "px" ? 1 : PER_INCH[unit] / ppi;
  // Of a capital, as it is printed; the size counts from the em.
  const capital = layer.measure.capital / layer.words.setting.size;
  const shownOf = (size: number) => size * capital * scale * perPixel;
  const round = (value: number) => Math.round(value * 10) / 10;
  return (
    <Numbers>
      <NumberBox
        label="Height of capitals"
        value={round(shownOf(setting.size))}
        min={Math.ceil(shownOf(SETTING.size.minimum) * 10) / 10}
        max={Math.floor(shownOf(SETTING.size.maximum) * 10) / 10}
        digits={1}
        step={0.1}
        unit={unit}
        isDisabled={isOff}
        onChange={(high) => take({ setting: { size: high / (capital * scale * perPixel) } })}
      />
      {GAPS.map(({ field, label }) => (
        <NumberBox
          key={field}
          label={label}
          value={Math.round(setting[field] * PERCENT)}
          min={SETTING[field].minimum * PERCENT}
          max={SETTING[field].maximum * PERCENT}
          step={1}
          unit="%"
          isDisabled={isOff}
          onChange={(gap) => take({ setting: { [field]: gap / PERCENT } })}
        />
      ))}
      <BlockWidth {...{ layer, words, isOff, take }} scale={scale} ppi={ppi} />
    </Numbers>
  );
}

interface BlockWidthProps extends Pick<WordsSetting, "layer" | "words" | "isOff" | "take"> {
  readonly scale: number;
  readonly ppi: number;
}

/** Where lines break: where they are told to alone, or at the block's edge too. */
function BlockWidth({ layer, words, isOff, take, scale, ppi }: BlockWidthProps): ReactElement {
  const { unit } = useSettings();
  const { width } = words.setting;
  const [left, , right] = layer.measure.block;
  const digits = unit === "px" ? 0 : 2;
  const shownOf = (pixels: number) =>
    Math.round(fromPixels(pixels * scale, unit, ppi) * 10 ** digits) / 10 ** digits;
  return (
    <>
      <FacetWords>
        Lines break{" "}
        <LiveSelect
          label="Where lines break"
          value={width === null ? "told" : "edge"}
          choices={[
            { id: "told", label: "where they are told to" },
            { id: "edge", label: "at the edge of the block" },
          ]}
          onChange={(id) => take({ setting: { width: id === "edge" ? right - left : null } })}
        />
        .
      </FacetWords>
      {width === null ? null : (
        <NumberBox
          label="Width of the block"
          value={shownOf(width)}
          min={10 ** -digits}
          max={Math.floor(shownOf(SETTING.width.maximum))}
          digits={digits}
          step={10 ** -digits}
          unit={unit}
          isDisabled={isOff}
          onChange={(wide) => take({ setting: { width: inPixels(wide, unit, ppi) / scale } })}
        />
      )}
    </>
  );
}

/** What the font can do besides, as words that are switched. */
function FontFeatures({ words, take }: WordsSetting): ReactElement | null {
  const { setting } = words;
  const facts = useFontFacts(setting.fonts[0]?.id);
  if (!facts || (facts.features.length === 0 && !facts.has_ligatures)) return null;
  const switched = (feature: Feature) =>
    setting.features.includes(feature)
      ? setting.features.filter((one) => one !== feature)
      : [...setting.features, feature];
  const offers = facts.features.map((feature) => (
    <LiveWord
      key={feature}
      isOn={setting.features.includes(feature)}
      onPress={() => take({ setting: { features: switched(feature) } })}
    >
      {FEATURE_WORDS[feature]}
    </LiveWord>
  ));
  if (facts.has_ligatures) {
    offers.push(
      <LiveWord
        key="liga"
        isOn={setting.ligatures}
        onPress={() => take({ setting: { ligatures: !setting.ligatures } })}
      >
        ligatures
      </LiveWord>,
    );
  }
  return (
    <FacetWords>
      Its font has{" "}
      {offers.map((offer, place) => (
        <span key={offer.key}>
          {place === 0 ? "" : place === offers.length - 1 ? " and " : ", "}
          {offer}
        </span>
      ))}
      .
    </FacetWords>
  );
}

/** A font of one's own can be put away; words that are set in it keep it. */
function OwnFont({ words }: WordsSetting): ReactElement | null {
  const client = useQueryClient();
  const id = words.setting.fonts[0]?.id;
  const font = useFonts().find((one) => one.id === id);
  if (font?.group !== "own") return null;
  const putAway = async () => {
    const { say, warn } = useMessages.getState();
    try {
      await putAwayFont(font.id);
      await client.invalidateQueries({ queryKey: ["fonts"] });
      say(`${font.name} is put away. Words that are set in it keep it.`);
    } catch (reason) {
      warn(reason instanceof Error ? reason.message : "The font could not be put away.");
    }
  };
  return (
    <FacetWords>
      {font.name} is yours; <LiveWord onPress={() => void putAway()}>put it away</LiveWord>.
    </FacetWords>
  );
}

/** Where a font that can be varied stands along its axes. */
function AxisSliders({ words, preview, take }: WordsSetting): ReactElement | null {
  const { setting } = words;
  const facts = useFontFacts(setting.fonts[0]?.id);
  const axes = facts?.axes ?? [];
  if (axes.length === 0) return null;
  const fresh = Object.fromEntries(axes.map(({ tag, usual }) => [tag, usual]));
  const chosen = Object.fromEntries(setting.axes.map(({ tag, value }) => [tag, value]));
  const changed = (changes: Readonly<Record<string, number>>) => ({
    setting: {
      axes: Object.entries({ ...chosen, ...changes }).map(([tag, value]) => ({ tag, value })),
    },
  });
  return (
    <NumberSliders
      sliders={axes.map(({ tag, name }) => ({ field: tag, label: name, unit: "", scale: 1 }))}
      values={{ ...fresh, ...chosen }}
      limits={Object.fromEntries(
        axes.map(({ tag, least, most }) => [tag, { minimum: least, maximum: most }]),
      )}
      fresh={fresh}
      onPreview={(changes) => preview(changed(changes))}
      onTake={(changes) => take(changed(changes))}
    />
  );
}
