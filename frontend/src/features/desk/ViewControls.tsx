/** How the picture is looked at: zoom, what backs see-through places, the surround. */

import type { ReactElement } from "react";
import { Dialog, DialogTrigger } from "react-aria-components";
import styled from "styled-components";
import { fitView } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";
import type { Backing } from "@/state/desk/viewing";
import { useComposite } from "@/state/project";
import { color } from "@/theme/tokens";
import { PlainButton, QuietButton } from "@/ui/Button";
import { ColorWell } from "@/ui/ColorWell";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { Card } from "@/ui/LiveSelect";
import { zoomFit, zoomLifeSize, zoomStep } from "@/work/zooming";

const Group = styled.div`
  display: flex;
  flex: none;
  align-items: center;
  gap: 4px;
  color: ${color.softInk};

  > span {
    margin-right: 4px;

    /* Where the ruler needs the room, the swatches say it alone. */
    @media (max-width: 1180px) {
      display: none;
    }
  }
`;

const Swatch = styled.button`
  width: 24px;
  height: 24px;
  padding: 0;
  border: 1px solid ${color.ruleStrong};
  border-radius: 2px;
  cursor: pointer;

  &[data-lattice="true"] {
    background: radial-gradient(#8f8b83 1px, #eceae5 1.2px) 0 0 / 6px 6px;
  }

  &[aria-pressed="true"] {
    outline: 2px solid ${color.on};
    outline-offset: 1px;
  }
`;

const Panel = styled(Dialog)`
  display: grid;
  gap: 12px;
  width: 330px;
  padding: 12px;
  outline: none;
`;

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
`;

const BACKINGS: readonly { readonly label: string; readonly backing: Backing }[] = [
  { label: "dots", backing: { kind: "lattice" } },
  { label: "white", backing: { kind: "color", color: "#ffffff" } },
  { label: "mid-grey", backing: { kind: "color", color: "#808080" } },
  { label: "black", backing: { kind: "color", color: "#000000" } },
];

export function ViewControls(): ReactElement {
  const backing = useDesk((desk) => desk.backing);
  const { setBacking } = useDesk((desk) => desk.actions);
  return (
    <>
      <Group role="group" aria-label="Backing: what shows through see-through places">
        <span aria-hidden="true">Backing</span>
        {BACKINGS.map((one) => (
          <Swatch
            key={one.label}
            type="button"
            aria-label={`Backing ${one.label}`}
            title={`Backing: ${one.label}`}
            aria-pressed={same(one.backing, backing)}
            data-lattice={one.backing.kind === "lattice"}
            style={one.backing.kind === "color" ? { background: one.backing.color } : undefined}
            onClick={() => setBacking(one.backing)}
          />
        ))}
      </Group>
      <ZoomControl />
    </>
  );
}

function ZoomControl(): ReactElement {
  const canvas = useComposite()?.canvas;
  const view = useDesk((desk) => desk.view);
  const stage = useDesk((desk) => desk.stage);
  const surround = useDesk((desk) => desk.surround);
  const backing = useDesk((desk) => desk.backing);
  const { setSurround, setBacking } = useDesk((desk) => desk.actions);
  const scale = view?.scale ?? (canvas && stage.width > 0 ? fitView(canvas, stage).scale : 1);
  const percent = Math.round(scale * window.devicePixelRatio * 100);
  const words = `${view ? "" : "Whole, "}${percent}\u00a0%`;
  return (
    <DialogTrigger>
      <QuietButton aria-label={`View: ${words}`}>{words}</QuietButton>
      <Card>
        <Panel aria-label="View">
          <Row>
            <PlainButton onPress={zoomFit}>Whole picture</PlainButton>
            <PlainButton onPress={zoomLifeSize}>Pixel for pixel</PlainButton>
            <PlainButton aria-label="Zoom out" onPress={() => zoomStep(-1)}>
              −
            </PlainButton>
            <PlainButton aria-label="Zoom in" onPress={() => zoomStep(1)}>
              +
            </PlainButton>
          </Row>
          <Row>
            <ColorWell
              label="Backing of any colour"
              value={backing.kind === "color" ? backing.color : "#ffffff"}
              onChange={(chosen) => setBacking({ kind: "color", color: chosen })}
            />
            <span>backing of any colour</span>
          </Row>
          <LabelledSlider
            label="Surround"
            value={surround}
            min={10}
            max={95}
            unit="%"
            fallback={55}
            onChange={setSurround}
            onChangeEnd={setSurround}
          />
        </Panel>
      </Card>
    </DialogTrigger>
  );
}

function same(one: Backing, other: Backing): boolean {
  if (one.kind === "lattice" || other.kind === "lattice") return one.kind === other.kind;
  return one.color === other.color;
}
