/** Place by number: position, size, turn, flips, and the usual places in one go. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { LineUp } from "@/features/place/LineUp";
import { PlaceNumbers } from "@/features/place/PlaceNumbers";
import { ShapeSettings } from "@/features/place/ShapeSettings";
import { isFlat, isLocked, type PlacedLayer, type Placement } from "@/model/composite";
import { fillingCanvas, fittedInside } from "@/model/geometry";
import { intoPile, onCanvas } from "@/model/nesting";
import { useDesk } from "@/state/desk/desk";
import { useComposite } from "@/state/project";
import { useCalmLive } from "@/state/useCalmLive";
import { PlainButton } from "@/ui/Button";
import { useDeskActions } from "@/work/DeskContext";

const Buttons = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;

  > * {
    flex: 1 1 auto;
  }
`;

export function PlaceFacet({ layer }: { readonly layer: PlacedLayer }): ReactElement | null {
  const desk = useDeskActions();
  const composite = useComposite();
  const live = useCalmLive();
  const { setLive } = useDesk((store) => store.actions);
  if (!composite) return null;
  const { canvas } = composite;
  const isLive = live?.kind === "place_layer" && live.layer_id === layer.id;
  const shown = onCanvas(composite, isLive ? { ...layer, placement: live.placement } : layer);
  const place = shown.placement;
  const off = isLocked(composite, layer.id);
  const placing = (placement: Placement) =>
    ({
      kind: "place_layer",
      layer_id: layer.id,
      placement: intoPile(composite, layer.id, placement),
    }) as const;
  const change = (changes: Partial<Placement>) => desk.edit(placing({ ...place, ...changes }));
  return (
    <>
      <PlaceNumbers layer={shown} ppi={canvas.ppi} isOff={off} onChange={change} />
      <Buttons>
        <PlainButton isDisabled={off} onPress={() => change({ flipped: !place.flipped })}>
          Flip left–right
        </PlainButton>
        <PlainButton isDisabled={off} onPress={() => change({ upended: !place.upended })}>
          Flip top–bottom
        </PlainButton>
        <PlainButton isDisabled={off || place.turn === 0} onPress={() => change({ turn: 0 })}>
          Upright
        </PlainButton>
        <PlainButton isDisabled={off} onPress={() => change(fittedInside(shown, canvas))}>
          Fit inside
        </PlainButton>
        <PlainButton isDisabled={off} onPress={() => change(fillingCanvas(shown, canvas))}>
          Fill
        </PlainButton>
        <PlainButton
          isDisabled={off}
          onPress={() => change({ x: canvas.width / 2, y: canvas.height / 2 })}
        >
          Centre
        </PlainButton>
      </Buttons>
      {isFlat(shown) ? (
        <ShapeSettings
          layer={shown}
          canvas={canvas}
          isOff={off}
          onPlace={(placement) => {
            desk.edit(placing(placement));
            setLive(null);
          }}
          onTry={(placement) => setLive(placing(placement))}
        />
      ) : null}
      {layer.kind === "photo" ? <LineUp layer={layer} composite={composite} isOff={off} /> : null}
    </>
  );
}
