/** One colour of a layer: any, or one of the picture beneath it. */

import type { ReactElement, ReactNode } from "react";
import styled from "styled-components";
import type { Layer } from "@/model/composite";
import { ColorWell } from "@/ui/ColorWell";
import { Swatches } from "@/ui/Swatches";
import { useOfferedColors } from "@/work/useOfferedColors";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
`;

interface LayerColorProps {
  readonly layer: Layer;
  /** What has the colour, where several of the layer have one. */
  readonly of?: string;
  readonly value: string;
  readonly isOff: boolean;
  onPreview(color: string): void;
  onTake(color: string): void;
  /** What else is offered. */
  readonly children?: ReactNode;
}

export function LayerColor(props: LayerColorProps): ReactElement {
  const { layer, of, value, isOff, onPreview, onTake, children } = props;
  const offered = useOfferedColors(layer);
  return (
    <Row>
      <ColorWell
        label={of ? `${of}: any colour` : "Any colour"}
        value={value}
        isDisabled={isOff}
        onPreview={onPreview}
        onChange={onTake}
      />
      <Swatches
        label={of ? `${of}: colours from the picture` : "Colours from the picture"}
        colors={offered}
        chosen={value}
        isDisabled={isOff}
        onTake={onTake}
      />
      {children}
    </Row>
  );
}
