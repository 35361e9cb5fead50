/** The try strip: this very picture, rendered with each alternative. */

import { useQuery } from "@tanstack/react-query";
import type { ReactElement } from "react";
import { Header, type Key, ListBox, ListBoxSection } from "react-aria-components";
import styled from "styled-components";
import { fetchModes } from "@/api/calls";
import { useDeskActions } from "@/features/desk/DeskContext";
import { useOfferedColors } from "@/features/pile/useOfferedColors";
import { TryTile } from "@/features/tries/TryTile";
import { useTries } from "@/features/tries/useTries";
import { type ColorLayer, isLocked, type Layer, layerById, sheetOf } from "@/model/composite";
import { fadeTries, openFadePlace } from "@/model/fades";
import { colorTries, gradientTries, type TryGroup, tryMode } from "@/model/tries";
import { facetFor, useDesk } from "@/state/desk";
import { useComposite } from "@/state/project";
import { color } from "@/theme/tokens";

const Strip = styled.section`
  overflow-x: auto;
  border-top: 1px solid ${color.rule};
  background: ${color.paper};
`;

/** One list: Tab enters and leaves it, arrow keys go through it. */
const List = styled(ListBox)`
  display: flex;
  gap: 18px;
  width: max-content;
  padding: 10px 16px 12px;
  outline: none;
`;

const Group = styled(ListBoxSection)`
  position: relative;
  display: flex;
  flex: none;
  gap: 6px;
  padding-top: 29px;
`;

const Title = styled(Header)`
  position: absolute;
  inset: 0 0 auto;
  overflow: hidden;
  white-space: nowrap;
  padding-bottom: 4px;
  border-bottom: 1px solid ${color.rule};
  color: ${color.softInk};
  font-size: 12.5px;
  font-weight: 650;
`;

/** Show the strip while something of the open layer is chosen by eye. */
export function TryStrip(): ReactElement | null {
  const composite = useComposite();
  const facet = useDesk((desk) => desk.facet);
  const openLayer = useDesk((desk) => desk.openLayer);
  const line = useDesk((desk) => desk.line);
  const lookedAt = useDesk((desk) => desk.lookedAt);
  const layer = composite ? layerById(composite, openLayer) : undefined;
  if (!composite || !layer || isLocked(composite, layer.id) || lookedAt) return null;
  const shown = facetFor(layer, facet);
  if (shown === "blend") return <ModeStrip layer={layer} />;
  if (shown === "fade") {
    const groups = fadeTries(layer, sheetOf(composite, layer.id), openFadePlace(layer, line));
    return <Tries label="Try each fade on this picture" groups={groups} />;
  }
  if (shown === "cut") return null;
  if (layer.kind === "color") return <ColorStrip layer={layer} />;
  if (layer.kind === "gradient") {
    const groups = gradientTries(layer, composite.canvas);
    return <Tries label="Try each way to run on this picture" groups={groups} />;
  }
  return null;
}

function ModeStrip({ layer }: { readonly layer: Layer }): ReactElement | null {
  const modes = useQuery({ queryKey: ["modes"], queryFn: fetchModes, staleTime: Infinity });
  if (!modes.data) return null;
  const groups = modes.data.map((group) => ({
    title: group.title,
    tries: group.modes.map(({ mode, title }) => ({
      title,
      edit: tryMode(layer, mode),
      isChosen: layer.blend === mode,
    })),
  }));
  return <Tries label="Try each blend mode on this picture" groups={groups} />;
}

function ColorStrip({ layer }: { readonly layer: ColorLayer }): ReactElement {
  const groups = colorTries(layer, useOfferedColors(layer));
  return <Tries label="Try colours on this picture" groups={groups} />;
}

interface TriesProps {
  readonly label: string;
  readonly groups: readonly TryGroup[];
}

function Tries({ label, groups }: TriesProps): ReactElement {
  const desk = useDeskActions();
  const { setTried } = useDesk((state) => state.actions);
  const tries = groups.flatMap((group) => group.tries);
  const sheet = useTries(tries.map(({ edit }) => edit));
  const take = (title: Key | undefined) => {
    setTried(null);
    const found = tries.find((one) => one.title === title);
    if (found && !found.isChosen) desk.edit(found.edit);
  };
  return (
    <Strip aria-label={label} onPointerLeave={() => setTried(null)}>
      <List
        aria-label={label}
        orientation="horizontal"
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={tries.filter((one) => one.isChosen).map((one) => one.title)}
        onSelectionChange={(chosen) => take([...chosen][0])}
        onBlur={() => setTried(null)}
      >
        {groups.map((group) => (
          <Group key={group.title}>
            <Title>{group.title}</Title>
            {group.tries.map((one) => (
              <TryTile
                key={one.title}
                title={one.title}
                sheet={sheet}
                place={tries.indexOf(one)}
                onTry={(on) => setTried(on && !one.isChosen ? one.edit : null)}
              />
            ))}
          </Group>
        ))}
      </List>
    </Strip>
  );
}
