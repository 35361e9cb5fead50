/** The sheet at the back of the pile: its size, print size and colour. */

import { CANVAS } from "@generated/limits";
import type { ReactElement } from "react";
import styled from "styled-components";
import { SheetSizes } from "@/features/pile/SheetSizes";
import { resized } from "@/model/canvas";
import type { Canvas } from "@/model/composite";
import { useDesk } from "@/state/desk/desk";
import { useComposite, useProject } from "@/state/project";
import { color } from "@/theme/tokens";
import { Choice } from "@/ui/Choice";
import { ColorWell } from "@/ui/ColorWell";
import { between, NumberBox } from "@/ui/NumberBox";
import { useShownWhenOpen } from "@/ui/useShownWhenOpen";
import { useDeskActions } from "@/work/DeskContext";
import { Sentence } from "@/work/Sentence";

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

function SheetForm({ canvas }: { readonly canvas: Canvas }): ReactElement {
  const desk = useDeskActions();
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
        onChange={(ppi) => desk.edit(resized(canvas, { ...canvas, ppi }, "stay"))}
      />
      <SheetSizes canvas={canvas} />
    </Body>
  );
}
