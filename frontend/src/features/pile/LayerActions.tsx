/** What can be done with the open layer as a whole. */

import type { ReactElement } from "react";
import styled from "styled-components";
import {
  duplicate,
  remove,
  shiftInPile,
  toggleLocked,
  toggleShown,
} from "@/features/desk/commands";
import { useDeskActions } from "@/features/desk/DeskContext";
import type { Layer } from "@/model/composite";
import { useComposite } from "@/state/project";
import { color } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 4px;
  padding: 6px 12px 8px 6px;
  border-top: 1px solid ${color.rule};
  font-size: 13px;
`;

interface LayerActionsProps {
  readonly layer: Layer;
  onRename(): void;
}

export function LayerActions({ layer, onRename }: LayerActionsProps): ReactElement {
  const desk = useDeskActions();
  const layers = useComposite()?.layers ?? [];
  const isFront = layers.at(-1)?.id === layer.id;
  const isBack = layers[0]?.id === layer.id;
  return (
    <Row role="group" aria-label={`What to do with ${layer.name}`}>
      <QuietButton isDisabled={isFront} onPress={() => shiftInPile(desk, layer, 1)}>
        Bring forward
      </QuietButton>
      <QuietButton isDisabled={isBack} onPress={() => shiftInPile(desk, layer, -1)}>
        Send back
      </QuietButton>
      <QuietButton onPress={() => duplicate(desk, layer)}>Copy</QuietButton>
      <QuietButton onPress={onRename}>Rename</QuietButton>
      <QuietButton onPress={() => toggleShown(desk, layer)}>
        {layer.visible ? "Hide" : "Show"}
      </QuietButton>
      <QuietButton onPress={() => toggleLocked(desk, layer)}>
        {layer.locked ? "Unlock" : "Lock"}
      </QuietButton>
      <QuietButton isDisabled={layer.locked} onPress={() => remove(desk, layer)}>
        Remove
      </QuietButton>
    </Row>
  );
}
