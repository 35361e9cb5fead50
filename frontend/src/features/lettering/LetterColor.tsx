/** One colour of words: any, or one of the picture. */

import type { ReactElement } from "react";
import styled from "styled-components";
import type { WordsLayer } from "@/model/composite";
import { ColorWell } from "@/ui/ColorWell";
import { Swatches } from "@/ui/Swatches";
import { useOfferedColors } from "@/work/useOfferedColors";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
`;

interface LetterColorProps {
  readonly layer: WordsLayer;
  readonly label: string;
  readonly value: string;
  readonly isOff: boolean;
  onPreview(color: string): void;
  onTake(color: string): void;
}

export function LetterColor(props: LetterColorProps): ReactElement {
  const { layer, label, value, isOff, onPreview, onTake } = props;
  const offered = useOfferedColors(layer);
  return (
    <Row>
      <ColorWell
        label={`${label}: any colour`}
        value={value}
        isDisabled={isOff}
        onPreview={onPreview}
        onChange={onTake}
      />
      <Swatches
        label={`${label}: colours from the picture`}
        colors={offered}
        chosen={value}
        isDisabled={isOff}
        onTake={onTake}
      />
    </Row>
  );
}
