/** Marks on the stage what tiles of the try strip show of the picture. */

import type { ReactElement } from "react";
import { Outline } from "@/features/grips/gripParts";
import type { Canvas } from "@/model/composite";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useDesk } from "@/state/desk/desk";

interface TilesMarkProps {
  readonly canvas: Canvas;
  readonly view: StageView;
}

/** From this share of the picture on nothing needs to be marked. */
const NEARLY_ALL = 0.99;
/** What of the picture the alternatives show, unless it is all of it. */
export function TilesMark({ canvas, view }: TilesMarkProps): ReactElement | null {
  const shows = useDesk((desk) => desk.tilesShow);
  if (!shows || shows.right - shows.left > canvas.width * NEARLY_ALL) return null;
  const { x, y } = canvasToStage(view, { x: shows.left, y: shows.top });
  const end = canvasToStage(view, { x: shows.right, y: shows.bottom });
  const corners = [{ x, y }, { x: end.x, y }, end, { x, y: end.y }];
  return (
    <g data-testid="tiles-mark">
      <Outline points={corners} isClosed />
    </g>
  );
}
