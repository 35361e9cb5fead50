/** The colour of a wash, wherever it is chosen. */

import type { ReactElement } from "react";
import type { ColorLayer } from "@/model/composite";
import { PAINTS } from "@/model/paints";
import { tryColor } from "@/model/tries";
import { useDesk } from "@/state/desk/desk";
import { Swatches } from "@/ui/Swatches";
import { useDeskActions } from "@/work/DeskContext";
import { LayerColor } from "@/work/LayerColor";

/** The colour of a layer that is of one: any, or one of the picture, or one often needed. */
export function ColorWash({ layer, isOff }: { layer: ColorLayer; isOff: boolean }): ReactElement {
  const desk = useDeskActions();
  const { setLive } = useDesk((state) => state.actions);
  const take = (chosen: string) => {
    setLive(null);
    if (chosen !== layer.color) desk.edit(tryColor(layer, chosen));
  };
  return (
    <LayerColor
      {...{ layer, isOff }}
      value={layer.color}
      onPreview={(chosen) => setLive(tryColor(layer, chosen))}
      onTake={take}
    >
      {layer.blend === "color" ? (
        <Swatches
          label="Colours often needed"
          colors={PAINTS.map((paint) => paint.color)}
          chosen={layer.color}
          isDisabled={isOff}
          onTake={take}
        />
      ) : null}
    </LayerColor>
  );
}
