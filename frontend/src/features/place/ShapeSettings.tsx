/** What shapes a photo, in words: how much of it shows, and whether it is straight and flat. */

import { CROP, PLACEMENT } from "@generated/limits";
import { useQuery } from "@tanstack/react-query";
import { type ReactElement, useEffect } from "react";
import styled from "styled-components";
import { fetchCornerPoints } from "@/api/calls";
import type { Canvas, FlatLayer, PhotoLayer, Placement } from "@/model/composite";
import { cropOf, framedInRatio, uncropped, withCrop } from "@/model/cropping";
import { cornersOf } from "@/model/geometry";
import { FIXED_NAMES, FREELY, ITS_OWN, named, proportionOf, THE_SHEETS } from "@/model/proportions";
import { type Crop, flatBend, regridded, type ShapingLine, shapingLine } from "@/model/shaping";
import { useDesk } from "@/state/desk/desk";
import { useProject } from "@/state/project";
import { useShaping } from "@/state/shaping";
import { PlainButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { LabelledSlider } from "@/ui/LabelledSlider";
import { LiveSelect } from "@/ui/LiveSelect";
import { LiveWord } from "@/ui/LiveWord";
import { between, NumberBox } from "@/ui/NumberBox";
import { NumberGrid } from "@/ui/NumberGrid";
import { Words } from "@/ui/Words";
import { leaveBlank, lookForBlank } from "@/work/blank";
import { useDeskActions } from "@/work/DeskContext";
import { pulledCorner } from "@/work/pulling";

const Part = styled.div`
  display: grid;
  gap: 10px;
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;

/** A corner's name, and how far across and down it lies. */
const Spots = styled.div`
  display: grid;
  grid-template-columns: auto repeat(2, minmax(0, 1fr));
  align-items: center;
  gap: 6px 10px;
`;

interface ShapeSettingsProps {
  /** As it lies on the canvas. */
  readonly layer: FlatLayer;
  readonly canvas: Canvas;
  readonly isOff: boolean;
  onPlace(placement: Placement): void;
  onTry(placement: Placement): void;
}

interface CropSettingsProps extends ShapeSettingsProps {
  readonly layer: PhotoLayer;
}

export function ShapeSettings(props: ShapeSettingsProps): ReactElement {
  const line = useDesk((desk) => shapingLine(desk.line));
  const { openLine } = useDesk((desk) => desk.actions);
  const { layer } = props;
  const { crop, corners, bend } = layer.placement;
  const word = (name: ShapingLine, label: string, hint: string) => (
    <LiveWord
      label={`${label}: ${hint}`}
      isExpanded={line === name}
      onPress={() => openLine(line === name ? null : name)}
    >
      {label}
    </LiveWord>
  );
  return (
    <>
      <Words>
        {layer.kind === "photo" ? (
          <>{word("crop", crop ? "Only part of it" : "All of it", "crop the photo")} shows, </>
        ) : (
          "It lies "
        )}
        {word("corners", corners ? "set into four corners" : "straight", "pull its corners")} and{" "}
        {word("bend", bend ? "bent" : "flat", "bend it by a grid")}.
      </Words>
      {line === "crop" && layer.kind === "photo" ? <CropSettings {...props} layer={layer} /> : null}
      {line === "corners" ? <CornerSettings {...props} /> : null}
      {line === "bend" ? <BendSettings {...props} /> : null}
    </>
  );
}

function CropSettings(props: CropSettingsProps): ReactElement {
  const { layer, isOff, onPlace } = props;
  const crop = cropOf(layer);
  return (
    <Part>
      <ProportionWords {...props} />
      <OutlineSettings {...props} />
      <InsideSettings {...props} />
      <Row>
        <PlainButton
          isDisabled={isOff || !layer.placement.crop}
          onPress={() => onPlace(uncropped(layer))}
        >
          Show all of it
        </PlainButton>
        <PlainButton
          isDisabled={isOff}
          onPress={() => {
            const side = Math.min(crop.width, crop.height);
            onPlace(withCrop(layer, { ...crop, shape: "ellipse", width: side, height: side }));
          }}
        >
          A true circle
        </PlainButton>
      </Row>
    </Part>
  );
}

const PROPORTIONS = named([FREELY, ITS_OWN, THE_SHEETS, ...FIXED_NAMES]);

function ProportionWords({ layer, canvas, onPlace }: CropSettingsProps): ReactElement {
  const { frame, setFrame } = useShaping();
  const choose = (name: string) => {
    setFrame(name);
    const ratio = proportionOf(name, layer, canvas);
    if (ratio !== null) onPlace(framedInRatio(layer, ratio));
  };
  return (
    <Words>
      Pull the frame{" "}
      <LiveSelect
        label="Proportion of the frame"
        value={frame}
        choices={PROPORTIONS}
        onChange={choose}
      />
      ; drag the photo inside it.
    </Words>
  );
}

function OutlineSettings({ layer, isOff, onPlace, onTry }: CropSettingsProps): ReactElement {
  const crop = cropOf(layer);
  const least = Math.min(crop.width, crop.height);
  const changed = (changes: Partial<Crop>) => withCrop(layer, { ...crop, ...changes });
  const side = (label: string, name: "width" | "height") => ({
    label,
    value: crop[name],
    limits: CROP[name],
    onChange: (pixels: number) => onPlace(changed({ [name]: pixels })),
  });
  return (
    <>
      <Choice
        label="Shape of the frame"
        value={crop.shape === "ellipse" ? "ellipse" : crop.corner > 0 ? "rounded" : "rectangle"}
        choices={[
          { id: "rectangle", label: "Sharp" },
          { id: "rounded", label: "Rounded" },
          { id: "ellipse", label: "Round" },
        ]}
        isDisabled={isOff}
        onChange={(id) =>
          onPlace(
            changed({
              shape: id === "ellipse" ? "ellipse" : "rectangle",
              corner: id === "rounded" ? least / 8 : 0,
            }),
          )
        }
      />
      {crop.corner > 0 && crop.shape === "rectangle" ? (
        <LabelledSlider
          label="Rounded"
          value={Math.round(crop.corner)}
          min={1}
          max={Math.round(least / 2)}
          unit="px"
          fallback={Math.round(least / 8)}
          isDisabled={isOff}
          onChange={(corner) => onTry(changed({ corner }))}
          onChangeEnd={(corner) => onPlace(changed({ corner }))}
        />
      ) : null}
      <NumberGrid isDisabled={isOff} numbers={[side("Wide", "width"), side("High", "height")]} />
    </>
  );
}

function InsideSettings({ layer, isOff, onPlace, onTry }: CropSettingsProps): ReactElement {
  const crop = cropOf(layer);
  const changed = (changes: Partial<Crop>) => withCrop(layer, { ...crop, ...changes });
  return (
    <>
      <LabelledSlider
        label="Inside"
        value={Math.round(crop.zoom * 100)}
        min={10}
        max={400}
        unit="%"
        fallback={100}
        isDisabled={isOff}
        onChange={(zoom) => onTry(changed({ zoom: zoom / 100 }))}
        onChangeEnd={(zoom) => onPlace(changed({ zoom: zoom / 100 }))}
      />
      <LabelledSlider
        label="Turned"
        value={Math.round(crop.turn * 10) / 10}
        min={-45}
        max={45}
        unit="°"
        fallback={0}
        isDisabled={isOff}
        onChange={(turn) => onTry(changed({ turn }))}
        onChangeEnd={(turn) => onPlace(changed({ turn }))}
      />
    </>
  );
}

const CORNER_WORDS = ["Top left", "Top right", "Bottom right", "Bottom left"] as const;

/** Have corners come to rest on corner-like points beneath, while this is open. */
function useRests(layer: FlatLayer): void {
  const { projectId } = useDeskActions();
  const head = useProject(({ known }) => known?.head);
  const { setRests } = useShaping.getState();
  const { data } = useQuery({
    queryKey: ["corner-points", projectId, head, layer.id],
    queryFn: () => fetchCornerPoints(projectId, { revision: head ?? "", layer_id: layer.id }),
    enabled: head !== undefined,
    placeholderData: (before) => before,
  });
  useEffect(() => {
    setRests(data ?? []);
    return () => setRests([]);
  }, [data, setRests]);
}

/** Leave the search for a blank place when its line is closed. */
function useBlankSearch(): boolean {
  const isLooking = useShaping(({ blank }) => blank !== null);
  useEffect(() => leaveBlank, []);
  return isLooking;
}

function CornerSettings({ layer, isOff, onPlace }: ShapeSettingsProps): ReactElement {
  const corners = cornersOf(layer);
  useRests(layer);
  const isLooking = useBlankSearch();
  if (isLooking) {
    return (
      <Part>
        <Words>
          Go roughly over the blank place on the stage, its shaded parts too. It is set into its
          four corners.
        </Words>
        <Row>
          <PlainButton onPress={leaveBlank}>Never mind</PlainButton>
        </Row>
      </Part>
    );
  }
  return (
    <Part>
      <Words>Pull each corner to where it belongs: so far across and down on the sheet.</Words>
      <Spots>
        {CORNER_WORDS.map((name, place) => {
          const at = corners[place] ?? { x: 0, y: 0 };
          const side = (axis: "x" | "y", way: string) => (
            <NumberBox
              {...between(PLACEMENT[axis])}
              label={`${name}, ${way}`}
              hideLabel
              value={Math.round(at[axis] * 10) / 10}
              digits={1}
              step={0.1}
              unit="px"
              isDisabled={isOff}
              onChange={(pixels) => onPlace(pulledCorner(layer, place, { ...at, [axis]: pixels }))}
            />
          );
          return (
            <div key={name} style={{ display: "contents" }}>
              <span aria-hidden="true">{name}</span>
              {side("x", "across")}
              {side("y", "down")}
            </div>
          );
        })}
      </Spots>
      <Row>
        <PlainButton
          isDisabled={isOff || !layer.placement.corners}
          onPress={() => onPlace({ ...layer.placement, corners: null })}
        >
          Straight again
        </PlainButton>
        <PlainButton isDisabled={isOff} onPress={lookForBlank}>
          Into a blank place…
        </PlainButton>
      </Row>
    </Part>
  );
}

const GRIDS = [2, 3, 4, 5, 7].map((side) => ({ id: `${side}`, label: `${side}` }));

function BendSettings({ layer, isOff, onPlace }: ShapeSettingsProps): ReactElement {
  const { placement } = layer;
  const bend = placement.bend ?? flatBend(3, 3);
  const regrid = (columns: number, rows: number) =>
    onPlace({ ...placement, bend: regridded(bend, columns, rows) });
  return (
    <Part>
      <Words>
        Drag the points of a grid,{" "}
        <LiveSelect
          label="Points across"
          value={`${bend.columns}`}
          choices={GRIDS}
          onChange={(columns) => regrid(Number(columns), bend.rows)}
        />{" "}
        across and{" "}
        <LiveSelect
          label="Points down"
          value={`${bend.rows}`}
          choices={GRIDS}
          onChange={(rows) => regrid(bend.columns, Number(rows))}
        />{" "}
        down.
      </Words>
      <Row>
        <PlainButton
          isDisabled={isOff || !placement.bend}
          onPress={() => onPlace({ ...placement, bend: null })}
        >
          Flat again
        </PlainButton>
      </Row>
    </Part>
  );
}
