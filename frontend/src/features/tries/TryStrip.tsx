/** The try strip: this very picture, rendered with each alternative. */

import { useQuery } from "@tanstack/react-query";
import type { ReactElement } from "react";
import styled from "styled-components";
import { fetchModes } from "@/api/calls";
import type { ModeChoices } from "@/api/types";
import { useDeskActions } from "@/features/desk/DeskContext";
import { TryTile } from "@/features/tries/TryTile";
import { useTries } from "@/features/tries/useTries";
import { type Layer, layerById } from "@/model/composite";
import { tryMode } from "@/model/tries";
import { useDesk } from "@/state/desk";
import { useComposite } from "@/state/project";
import { color } from "@/theme/tokens";

const Strip = styled.section`
  display: flex;
  gap: 18px;
  overflow-x: auto;
  padding: 10px 16px 12px;
  border-top: 1px solid ${color.rule};
  background: ${color.paper};
`;

const Group = styled.div`
  flex: none;
`;

const Title = styled.h2`
  margin-bottom: 7px;
  padding-bottom: 4px;
  border-bottom: 1px solid ${color.rule};
  color: ${color.softInk};
  font-size: 12.5px;
  font-weight: 650;
`;

const Tiles = styled.div`
  display: flex;
  gap: 6px;
`;

/** Show the strip while the open layer's blend is being chosen. */
export function TryStrip(): ReactElement | null {
  const composite = useComposite();
  const facet = useDesk((desk) => desk.facet);
  const openLayer = useDesk((desk) => desk.openLayer);
  const lookedAt = useDesk((desk) => desk.lookedAt);
  const modes = useQuery({ queryKey: ["modes"], queryFn: fetchModes, staleTime: Infinity });
  const layer = composite ? layerById(composite, openLayer) : undefined;
  if (!layer || layer.locked || facet !== "blend" || !modes.data || lookedAt) return null;
  return <ModeStrip layer={layer} groups={modes.data} />;
}

interface ModeStripProps {
  readonly layer: Layer;
  readonly groups: readonly ModeChoices[];
}

function ModeStrip({ layer, groups }: ModeStripProps): ReactElement {
  const desk = useDeskActions();
  const { setTried } = useDesk((state) => state.actions);
  const modes = groups.flatMap((group) => group.modes);
  const sheet = useTries(modes.map(({ mode }) => tryMode(layer, mode)));
  return (
    <Strip aria-label="Try each blend mode on this picture" onPointerLeave={() => setTried(null)}>
      {groups.map((group) => (
        <Group key={group.title}>
          <Title>{group.title}</Title>
          <Tiles role="group" aria-label={group.title}>
            {group.modes.map(({ mode, title }) => (
              <TryTile
                key={mode}
                title={title}
                sheet={sheet}
                place={modes.findIndex((one) => one.mode === mode)}
                isChosen={layer.blend === mode}
                onTry={(on) => setTried(on && mode !== layer.blend ? tryMode(layer, mode) : null)}
                onTake={() => {
                  setTried(null);
                  if (mode !== layer.blend) desk.edit(tryMode(layer, mode));
                }}
              />
            ))}
          </Tiles>
        </Group>
      ))}
    </Strip>
  );
}
