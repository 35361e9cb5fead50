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
import { ActionMenu, type Deed } from "@/ui/ActionMenu";
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
import { type DeskActions, useDeskActions } from "@/work/DeskContext";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  padding: 4px 10px 6px 6px;
  border-top: 1px solid ${color.rule};
  font-size: 13px;

  > button {
    padding: 4px 5px;
  }
`;

interface LayerActionsProps {
  readonly layer: Layer;
  onRename(): void;
}

export function LayerActions({ layer, onRename }: LayerActionsProps): ReactElement | null {
  const desk = useDeskActions();
  const composite = useComposite();
  if (!composite) return null;
  const layers = siblingsOf(composite, layer.id);
  const isFront = layers.at(-1)?.id === layer.id;
  const isBack = layers[0]?.id === layer.id;
  const held = isLocked(composite, layer.id);
  return (
    <Row role="group" aria-label={`What to do with ${layer.name}`}>
      <QuietButton
        aria-label="Bring forward"
        isDisabled={isFront}
        onPress={() => shiftInPile(desk, layer, 1)}
      >
        Forward
      </QuietButton>
      <QuietButton
        aria-label="Send back"
        isDisabled={isBack}
        onPress={() => shiftInPile(desk, layer, -1)}
      >
        Back
      </QuietButton>
      <QuietButton onPress={() => duplicate(desk, layer)}>Copy</QuietButton>
      <QuietButton onPress={() => toggleShown(desk, layer)}>
        {layer.visible ? "Hide" : "Show"}
      </QuietButton>
      <QuietButton onPress={() => toggleLocked(desk, layer)}>
        {layer.locked ? "Unlock" : "Lock"}
      </QuietButton>
      <QuietButton isDisabled={held} onPress={() => remove(desk, layer)}>
        Remove
      </QuietButton>
      <More layer={layer} composite={composite} onRename={onRename} />
    </Row>
  );
}

interface MoreProps extends LayerActionsProps {
  readonly composite: Composite;
}

/** What is done less often: looking, choosing, exchanging, putting together, taking apart. */
function More({ layer, composite, onRename }: MoreProps): ReactElement {
  const desk = useDeskActions();
  const seeThrough = useDesk((store) => store.seeThrough);
  const chosen = useDesk((store) => store.chosen);
  const { setSeeThrough } = useDesk((store) => store.actions);
  const deeds: readonly (Deed | null)[] = [
    { label: "Rename", run: onRename },
    {
      label: seeThrough ? "At full strength" : "See through",
      run: () => setSeeThrough(!seeThrough),
    },
    isPlaced(layer)
      ? {
          label: chosen.includes(layer.id) ? "Let go of it" : "Choose with others",
          run: () => chooseOpen(desk, layer),
        }
      : null,
    ...groupDeeds(desk, composite, layer),
  ];
  return (
    <ActionMenu
      word="more…"
      label={`More to do with ${layer.name}`}
      deeds={deeds.filter((deed) => deed !== null)}
    >
      {layer.kind === "photo" ? (
        <OtherPhoto layer={layer} isOff={isLocked(composite, layer.id)} />
      ) : null}
    </ActionMenu>
  );
}

/** Putting layers together, and taking them apart. */
function groupDeeds(
  desk: DeskActions,
  composite: Composite,
  layer: Layer,
): readonly (Deed | null)[] {
  const below = beneath(composite, layer);
  const around = groupsAround(composite, layer.id).at(-1);
  return [
    below?.kind === "group"
      ? {
          label: `Put into ${below.name}`,
          isOff: isLocked(composite, below.id),
          run: () => putInto(desk, layer, below),
        }
      : null,
    below && below.kind !== "group"
      ? { label: `Put together with ${below.name}`, run: () => putTogether(desk, layer) }
      : null,
    around
      ? {
          label: `Take out of ${around.name}`,
          isOff: isLocked(composite, around.id),
          run: () => takeOut(desk, layer),
        }
      : null,
    layer.kind === "group"
      ? {
          label: "Take apart",
          isOff: isLocked(composite, layer.id),
          run: () => takeApart(desk, layer),
        }
      : null,
  ];
}
