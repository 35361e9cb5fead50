/** The pile: every layer as a sentence, front to back; one of them open in place. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { ChosenPanel } from "@/features/pile/ChosenPanel";
import { LayerList } from "@/features/pile/LayerItem";
import { PileDragProvider } from "@/features/pile/PileDrag";
import { PlanSteps } from "@/features/pile/PlanSteps";
import { SheetItem } from "@/features/pile/SheetItem";
import { countLayers } from "@/model/composite";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { useComposite } from "@/state/project";
import { color, font } from "@/theme/tokens";
import { LiveWord } from "@/ui/LiveWord";
import { layColor, layGradient, layMending, layToning } from "@/work/commands";
import { useDeskActions } from "@/work/DeskContext";
import { layWords } from "@/work/lettering";

const Column = styled.section`
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-right: 1px solid ${color.rule};
  background: ${color.paper};
`;

const Edge = styled.div`
  display: flex;
  justify-content: space-between;
  padding: 7px 16px;
  color: ${color.softInk};
  font-size: 12.5px;
`;

const Scroll = styled.div`
  flex: 1;
  min-height: 0;
  overflow: auto;
  border-top: 1px solid ${color.rule};
`;

const LayOn = styled.p`
  padding: 0 16px 8px;
  font-family: ${font.reading};
  font-size: 14px;
`;

const Nothing = styled.p`
  padding: 16px;
  color: ${color.softInk};
`;

const openShelf = () => useDesk.getState().actions.setShelf(true);

export function Pile(): ReactElement {
  const desk = useDeskActions();
  const composite = useComposite();
  const layers = composite?.layers ?? [];
  return (
    <Column aria-label="The pile" data-pile="">
      <Edge>
        <span>Front</span>
        <span>{sayCount(countLayers(layers), "layer")}</span>
      </Edge>
      <LayOn>
        Lay on <LiveWord onPress={() => layWords(desk)}>words</LiveWord>, a{" "}
        <LiveWord onPress={openShelf}>photo</LiveWord>, a{" "}
        <LiveWord onPress={() => layColor(desk)}>colour</LiveWord>, a{" "}
        <LiveWord onPress={() => layGradient(desk)}>gradient</LiveWord>, or{" "}
        <LiveWord label="tone everything" onPress={() => layToning(desk)}>
          tone
        </LiveWord>{" "}
        or <LiveWord onPress={() => layMending(desk)}>mend everything</LiveWord>.
      </LayOn>
      <PlanSteps />
      <Scroll>
        {layers.length === 0 ? (
          <Nothing>Nothing lies on the sheet yet. What you lay on shows here, in words.</Nothing>
        ) : null}
        <ChosenPanel />
        <PileDragProvider>
          <LayerList layers={layers} label="Layers, front to back" />
        </PileDragProvider>
        <SheetItem />
        <Edge>
          <span>Back</span>
        </Edge>
      </Scroll>
    </Column>
  );
}
