/** The pile: every layer as a sentence, front to back; one of them open in place. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { LayerItem } from "@/features/pile/LayerItem";
import { PileDragProvider } from "@/features/pile/PileDrag";
import { SheetItem } from "@/features/sheet/SheetItem";
import { sayCount } from "@/model/wording";
import { useComposite } from "@/state/project";
import { color } from "@/theme/tokens";

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

const Nothing = styled.p`
  padding: 16px;
  color: ${color.softInk};
`;

export function Pile(): ReactElement {
  const composite = useComposite();
  const frontToBack = composite ? [...composite.layers].reverse() : [];
  return (
    <Column aria-label="The pile">
      <Edge>
        <span>Front</span>
        <span>{sayCount(frontToBack.length, "layer")}</span>
      </Edge>
      <Scroll>
        {frontToBack.length === 0 ? (
          <Nothing>Nothing lies on the sheet yet. What you lay on shows here, in words.</Nothing>
        ) : null}
        <PileDragProvider count={frontToBack.length}>
          <ol aria-label="Layers, front to back">
            {frontToBack.map((layer, row) => (
              <LayerItem key={layer.id} layer={layer} row={row} />
            ))}
          </ol>
        </PileDragProvider>
        <SheetItem />
        <Edge>
          <span>Back</span>
        </Edge>
      </Scroll>
    </Column>
  );
}
