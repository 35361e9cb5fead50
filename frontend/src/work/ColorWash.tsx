/** The colour of a wash, wherever it is chosen. */

import type { ReactElement } from "react";
import styled from "styled-components";
import type { ColorLayer } from "@/model/composite";
import { PAINTS } from "@/model/paints";
import { tryColor } from "@/model/tries";
import { useDesk } from "@/state/desk/desk";
import { ColorWell } from "@/ui/ColorWell";
import { Swatches } from "@/ui/Swatches";
import { useDeskActions } from "@/work/DeskContext";
import { useOfferedColors } from "@/work/useOfferedColors";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
`;

/** The colour of a layer that is of one: any, or one of the picture, or one often needed. */
export function ColorWash({ layer, isOff }: { layer: ColorLayer; isOff: boolean }): ReactElement {
  const desk = useDeskActions();
  const offered = useOfferedColors(layer);
  const { setLive } = useDesk((state) => state.actions);
  const take = (chosen: string) => {
    setLive(null);
    if (chosen !== layer.color) desk.edit(tryColor(layer, chosen));
  };
  return (
    <Row>
      <ColorWell
        label="Any colour"
        value={layer.color}
        isDisabled={isOff}
        onPreview={(chosen) => setLive(tryColor(layer, chosen))}
        onChange={take}
      />
      <Swatches
        label="Colours from the picture"
        colors={offered}
        chosen={layer.color}
        isDisabled={isOff}
        onTake={take}
      />
      {layer.blend === "color" ? (
        <Swatches
          label="Colours often needed"
          colors={PAINTS.map((paint) => paint.color)}
          chosen={layer.color}
          isDisabled={isOff}
          onTake={take}
        />
      ) : null}
    </Row>
  );
}
