/** Blend: ready strengths, the exact strength, and the mode by name. */

import { useQuery } from "@tanstack/react-query";
import type { ReactElement } from "react";
import styled from "styled-components";
import { fetchModes } from "@/api/calls";
import { type BlendMode, isLocked, type Layer } from "@/model/composite";
import { STRENGTHS, tryMode, tryStrength } from "@/model/tries";
import { useDesk } from "@/state/desk/desk";
import { useComposite } from "@/state/project";
import { useCalmLive } from "@/state/useCalmLive";
import { font } from "@/theme/tokens";
import { Choice } from "@/ui/Choice";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { LiveSelect } from "@/ui/LiveSelect";
import { useDeskActions } from "@/work/DeskContext";

const Words = styled.p`
  font-family: ${font.reading};
  font-size: 15px;
`;

const LADDER = STRENGTHS.map((strength) => ({
  id: String(Math.round(strength * 100)),
  label: String(Math.round(strength * 100)),
}));

export function BlendFacet({ layer }: { readonly layer: Layer }): ReactElement {
  const desk = useDeskActions();
  const live = useCalmLive();
  const { setLive } = useDesk((state) => state.actions);
  const modes = useQuery({ queryKey: ["modes"], queryFn: fetchModes, staleTime: Infinity });
  const shown =
    live?.kind === "blend_layer" && live.layer_id === layer.id ? live.opacity : layer.opacity;
  const composite = useComposite();
  const held = composite ? isLocked(composite, layer.id) : true;
  const percent = Math.round(shown * 100);
  const take = (value: number) => {
    setLive(null);
    if (value !== Math.round(layer.opacity * 100)) desk.edit(tryStrength(layer, value / 100));
  };
  const choices = (modes.data ?? []).flatMap((group) =>
    group.modes.map(({ mode, title }) => ({ id: mode, label: title })),
  );
  return (
    <>
      <Choice
        label="Ready strengths"
        value={LADDER.some(({ id }) => id === String(percent)) ? String(percent) : null}
        choices={LADDER}
        isDisabled={held}
        onChange={(id) => take(Number(id))}
      />
      <LabelledSlider
        label="Strength"
        value={percent}
        min={0}
        max={100}
        unit="%"
        fallback={100}
        isDisabled={held}
        onChange={(value) => setLive(tryStrength(layer, value / 100))}
        onChangeEnd={take}
      />
      {held || choices.length === 0 ? null : (
        <Words>
          Its colours join those beneath by{" "}
          <LiveSelect
            label="Blend mode"
            value={layer.blend}
            choices={choices}
            onChange={(mode) => desk.edit(tryMode(layer, mode as BlendMode))}
          />
          ; the strip below the picture shows what each does.
        </Words>
      )}
    </>
  );
}
