/** Colours to paint on a photo with: often needed ones by name, and any. */

import type { ReactElement } from "react";
import type { PlacedLayer } from "@/model/composite";
import { PAINTS } from "@/model/paints";
import { LiveSelect } from "@/ui/LiveSelect";
import { paintColor } from "@/work/commands";
import { useDeskActions } from "@/work/DeskContext";

export function PaintColor({ layer }: { readonly layer: PlacedLayer }): ReactElement {
  const desk = useDeskActions();
  return (
    <>
      Or paint colour on it, which keeps its light and shade:{" "}
      <LiveSelect
        label="Paint on it with"
        value=""
        fallback="choose a colour"
        choices={PAINTS.map(({ name }) => ({ id: name, label: name }))}
        onChange={(name) => {
          const paint = PAINTS.find((one) => one.name === name);
          if (paint) paintColor(desk, layer, paint);
        }}
      />
      .
    </>
  );
}
