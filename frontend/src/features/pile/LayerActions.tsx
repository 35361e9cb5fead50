/** What can be done with the open layer as a whole. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { OtherPhoto } from "@/features/pile/OtherPhoto";
import {
  type Composite,
  groupsAround,
  isLocked,
  isPlaced,
  type Layer,
  siblingsOf,
} from "@/model/composite";
import { useDesk } from "@/state/desk/desk";
import { useComposite } from "@/state/project";
import { color } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import {
  beneath,
  chooseOpen,
  duplicate,
  putInto,
  putTogether,
  remove,
  shiftInPile,
  takeApart,
  takeOut,
  toggleLocked,
  toggleShown,
} from "@/work/commands";
import { useDeskActions } from "@/work/DeskContext";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 4px;
  padding: 6px 12px 8px 6px;
  border-top: 1px solid ${color.rule};
  font-size: 13px;

  > button {
    overflow: hidden;
    max-width: 100%;
    text-overflow: ellipsis;
  }
`;

interface LayerActionsProps {
  readonly layer: Layer;
  onRename(): void;
}

export function LayerActions({ layer, onRename }: LayerActionsProps): ReactElement | null {
  const desk = useDeskActions();
  const composite = useComposite();
  const seeThrough = useDesk((store) => store.seeThrough);
  const chosen = useDesk((store) => store.chosen);
  const actions = useDesk((store) => store.actions);
  if (!composite) return null;
  const layers = siblingsOf(composite, layer.id);
  const isFront = layers.at(-1)?.id === layer.id;
  const isBack = layers[0]?.id === layer.id;
  const held = isLocked(composite, layer.id);
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
      <QuietButton isDisabled={held} onPress={() => remove(desk, layer)}>
        Remove
      </QuietButton>
      <QuietButton aria-pressed={seeThrough} onPress={() => actions.setSeeThrough(!seeThrough)}>
        {seeThrough ? "At full strength" : "See through"}
      </QuietButton>
      {isPlaced(layer) ? (
        <QuietButton onPress={() => chooseOpen(desk, layer)}>
          {chosen.includes(layer.id) ? "Let go of it" : "Choose with others"}
        </QuietButton>
      ) : null}
      {layer.kind === "photo" ? <OtherPhoto layer={layer} isOff={held} /> : null}
      <GroupActions composite={composite} layer={layer} />
    </Row>
  );
}

interface GroupActionsProps {
  readonly composite: Composite;
  readonly layer: Layer;
}

/** Putting layers together, and taking them apart. */
function GroupActions({ composite, layer }: GroupActionsProps): ReactElement {
  const desk = useDeskActions();
  const below = beneath(composite, layer);
  const around = groupsAround(composite, layer.id).at(-1);
  return (
    <>
      {below?.kind === "group" ? (
        <QuietButton
          isDisabled={isLocked(composite, below.id)}
          onPress={() => putInto(desk, layer, below)}
        >
          Put into {below.name}
        </QuietButton>
      ) : null}
      {below && below.kind !== "group" ? (
        <QuietButton onPress={() => putTogether(desk, layer)}>
          Put together with {below.name}
        </QuietButton>
      ) : null}
      {around ? (
        <QuietButton
          isDisabled={isLocked(composite, around.id)}
          onPress={() => takeOut(desk, layer)}
        >
          Take out of {around.name}
        </QuietButton>
      ) : null}
      {layer.kind === "group" ? (
        <QuietButton
          isDisabled={isLocked(composite, layer.id)}
          onPress={() => takeApart(desk, layer)}
        >
          Take apart
        </QuietButton>
      ) : null}
    </>
  );
}
