/** What a layer looks like by itself, small. */

import type { CSSProperties, ReactElement } from "react";
import styled from "styled-components";
import { thumbnailUrl } from "@/api/calls";
import { useHidden } from "@/features/pile/useHidden";
import type { Gradient, Layer, Stop, WordsLayer } from "@/model/composite";
import { color } from "@/theme/tokens";
import { faceName } from "@/work/useFonts";

const Frame = styled.button`
  position: relative;
  flex: none;
  width: 52px;
  height: 52px;
  padding: 0;
  border: 0;
  background: ${color.well};
  cursor: pointer;

  img {
    display: block;
    width: 100%;
    height: 100%;
    object-fit: cover;
  }

  &[data-hidden="true"] > * {
    opacity: 0.3;
  }

  &[data-small="true"] {
    width: 34px;
    height: 34px;
  }

  &[data-several="true"]:not([data-small="true"]) {
    width: 46px;
    height: 46px;
    margin: 0 6px 6px 0;
    box-shadow:
      2px 2px 0 ${color.paper},
      3px 3px 0 ${color.ruleStrong},
      5px 5px 0 ${color.paper},
      6px 6px 0 ${color.ruleStrong};
  }
`;

const Wash = styled.span`
  display: block;
  width: 100%;
  height: 100%;
  border: 1px solid ${color.rule};
`;

/** Steps from dark to light: the sign of what tones all beneath it. */
const Toning = styled.span`
  display: block;
  width: 100%;
  height: 100%;
  border: 1px solid ${color.rule};
  background: linear-gradient(
    to right,
    #25221d 0 20%,
    #5b554b 20% 40%,
    #918a7c 40% 60%,
    #c8c0ae 60% 80%,
    #f5f1e8 80%
  );
`;

/** A darn: threads that cross, on plain cloth. */
const Mending = styled.span`
  display: block;
  width: 100%;
  height: 100%;
  border: 1px solid ${color.rule};
  background:
    repeating-linear-gradient(to right, #6d665a 0 1px, transparent 1px 4px) center / 15px 13px
      no-repeat,
    repeating-linear-gradient(to bottom, #6d665a 0 1px, transparent 1px 4px) center / 15px 13px
      no-repeat,
    #efe9dc;
`;

const Letters = styled.span`
  display: grid;
  place-items: center;
  width: 100%;
  height: 100%;
  border: 1px solid ${color.rule};
  overflow: hidden;
  font-size: 21px;
  line-height: 1;
`;

/** What the layer's mask hides, dimmed under slanted lines, as on the stage. */
const Hatching = styled.span`
  position: absolute;
  inset: 0;
  background:
    repeating-linear-gradient(135deg, ${color.veil} 0 1.2px, transparent 1.2px 4.5px),
    color-mix(in srgb, ${color.well} 62%, transparent);
  mask-mode: alpha;
  mask-position: center;
  mask-repeat: no-repeat;
  mask-size: cover;
`;

interface LayerThumbProps {
  readonly layer: Layer;
  /** Beside a name alone. */
  readonly isSmall: boolean;
  onPress(): void;
}

export function LayerThumb({ layer, isSmall, onPress }: LayerThumbProps): ReactElement {
  const hidden = useHidden(layer);
  return (
    <Frame
      type="button"
      tabIndex={-1}
      aria-hidden="true"
      data-hidden={!layer.visible}
      data-small={isSmall}
      data-several={layer.kind === "group"}
      onClick={onPress}
    >
      <Look layer={layer} />
      {hidden ? (
        <Hatching style={{ maskImage: `url("${hidden}")` }} data-testid="hatched-thumb" />
      ) : null}
    </Frame>
  );
}

function Look({ layer }: { readonly layer: Layer }): ReactElement | null {
  switch (layer.kind) {
    case "photo":
      return <img src={thumbnailUrl(layer.picture)} alt="" draggable={false} />;
    case "color":
      return <Wash style={{ background: layer.color }} />;
    case "gradient":
      return <Wash style={{ background: gradientLook(layer.gradient) }} />;
    case "toning":
      return <Toning />;
    case "mending":
      return <Mending />;
    case "words":
      return <Lettering layer={layer} />;
    case "group": {
      const front = layer.layers.at(-1);
      return front ? <Look layer={front} /> : null;
    }
  }
}

/** The first letters in their own font and ink. */
function Lettering({ layer }: { readonly layer: WordsLayer }): ReactElement {
  const { setting, ink } = layer.words;
  const letters = [...setting.text.trim()].slice(0, 2).join("") || "…";
  const shown = ink === null ? undefined : ink.kind === "plain" ? ink.color : ink.start;
  return (
    <Letters
      style={{
        fontFamily: `"${faceName(setting.fonts[0]?.id ?? "")}", serif`,
        ...(shown ? { color: shown, background: groundFor(shown) } : {}),
      }}
    >
      {letters}
    </Letters>
  );
}

/** A ground on which a colour can be told. */
function groundFor(shown: string): string {
  const [red = 0, green = 0, blue = 0] = [1, 3, 5].map((at) =>
    Number.parseInt(shown.slice(at, at + 2), 16),
  );
  return 0.3 * red + 0.59 * green + 0.11 * blue > 140 ? "#6d665a" : "#fbf9f3";
}

function gradientLook(gradient: Gradient): CSSProperties["background"] {
  const ends = `${stopLook(gradient.start)}, ${stopLook(gradient.end)}`;
  if (gradient.shape === "round") return `radial-gradient(closest-side, ${ends})`;
  // In style sheets 0 degrees run upwards.
  return `linear-gradient(${gradient.angle + 90}deg, ${ends})`;
}

function stopLook(stop: Stop): string {
  return `color-mix(in srgb, ${stop.color} ${stop.opacity * 100}%, transparent)`;
}
