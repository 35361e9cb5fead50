/** The sheet at the back of the pile: its size, print size and colour. */

import { CANVAS } from "@generated/limits";
import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { useDeskActions } from "@/features/desk/DeskContext";
import { Sentence } from "@/features/pile/Sentence";
import type { Canvas } from "@/model/composite";
import { useDesk } from "@/state/desk";
import { useComposite, useProject } from "@/state/project";
import { color, font } from "@/theme/tokens";
import { PlainButton, StrongButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { ColorWell } from "@/ui/ColorWell";
import { between, NumberBox } from "@/ui/NumberBox";
import { useShownWhenOpen } from "@/ui/useShownWhenOpen";

const Item = styled.div`
  border-bottom: 1px solid ${color.rule};

  &[data-open="true"] {
    border-left: 4px solid ${color.live};
    background: ${color.sheet};
  }
`;

const Head = styled.div`
  display: flex;
  gap: 12px;
  padding: 10px 16px;
`;

const Swatch = styled.div`
  flex: none;
  width: 52px;
  height: 36px;
  border: 1px solid ${color.rule};

  &[data-clear="true"] {
    background: radial-gradient(#a9a59c 1.2px, #eceae5 1.4px) 0 0 / 9px 9px;
  }
`;

const Body = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
  padding: 4px 16px 16px 12px;
`;

const Words = styled.p`
  color: ${color.softInk};
  font-family: ${font.reading};
`;

const Grid = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 10px;
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
`;

export function SheetItem(): ReactElement | null {
  const sentence = useProject((project) => project.known?.sheet);
  const canvas = useComposite()?.canvas;
  const open = useDesk((desk) => desk.sheetOpen);
  const { setSheet } = useDesk((desk) => desk.actions);
  const item = useShownWhenOpen<HTMLDivElement>(open);
  if (!sentence || !canvas) return null;
  return (
    <Item ref={item} data-open={open}>
      <Head>
        <Swatch
          data-clear={canvas.background === null}
          style={canvas.background ? { background: canvas.background } : undefined}
        />
        <Sentence
          parts={sentence}
          isOpen={open}
          onTouch={() => setSheet(true)}
          onClose={() => setSheet(false)}
        />
      </Head>
      {open ? <SheetForm canvas={canvas} /> : null}
    </Item>
  );
}

interface Added {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

const NONE: Added = { left: 0, right: 0, top: 0, bottom: 0 };
const SIDES = [
  ["left", "At the left"],
  ["right", "At the right"],
  ["top", "At the top"],
  ["bottom", "At the bottom"],
] as const;

/** What is added counts for the size that it was typed for; with another it begins anew. */
function useAdded({ width, height }: Canvas): [Added, (added: Added) => void] {
  const [typed, setTyped] = useState({ added: NONE, width, height });
  const counts = typed.width === width && typed.height === height;
  return [counts ? typed.added : NONE, (added) => setTyped({ added, width, height })];
}

function SheetForm({ canvas }: { readonly canvas: Canvas }): ReactElement {
  const desk = useDeskActions();
  const [added, setAdded] = useAdded(canvas);
  const width = canvas.width + added.left + added.right;
  const height = canvas.height + added.top + added.bottom;
  const fits =
    width >= 1 && height >= 1 && width <= CANVAS.width.maximum && height <= CANVAS.width.maximum;
  const change = (changes: Partial<Canvas>, shift_x = 0, shift_y = 0) =>
    desk.edit({ kind: "set_canvas", canvas: { ...canvas, ...changes }, shift_x, shift_y });
  const tint = (background: string | null) => desk.edit({ kind: "tint_sheet", background });
  return (
    <Body>
      <Choice
        label="What shows where nothing lies"
        value={canvas.background === null ? "clear" : "color"}
        choices={[
          { id: "color", label: "A colour" },
          { id: "clear", label: "Clear" },
        ]}
        onChange={(kind) => tint(kind === "clear" ? null : "#ffffff")}
      />
      {canvas.background === null ? null : (
        <Row>
          <ColorWell label="Colour of the sheet" value={canvas.background} onChange={tint} />
          <span>Colour of the sheet</span>
        </Row>
      )}
      <NumberBox
        label="Prints at"
        value={canvas.ppi}
        {...between(CANVAS.ppi)}
        step={1}
        unit="ppi"
        onChange={(ppi) => change({ ppi })}
      />
      <Words>Add to the sheet on any side, or take away with a minus. Layers stay whole.</Words>
      <Grid>
        {SIDES.map(([side, label]) => (
          <NumberBox
            key={side}
            label={label}
            value={added[side]}
            min={-CANVAS.width.maximum}
            max={CANVAS.width.maximum}
            step={1}
            unit="px"
            onChange={(pixels) => setAdded({ ...added, [side]: pixels })}
          />
        ))}
      </Grid>
      <Row>
        <StrongButton
          isDisabled={!fits || (width === canvas.width && height === canvas.height)}
          onPress={() => change({ width, height }, added.left, added.top)}
        >
          Make it {width} × {height}
        </StrongButton>
        <PlainButton onPress={() => change({ width: canvas.height, height: canvas.width })}>
          Lay it on its other side
        </PlainButton>
      </Row>
    </Body>
  );
}
