/** The rough stroke over a blank place, as it is made. */

import type { ReactElement } from "react";
import { Trace } from "@/features/grips/BrushRing";
import { listed } from "@/features/grips/gripParts";
import { canvasToStage, type StageView } from "@/model/viewing";
import { useShaping } from "@/state/shaping";
import { BLANK_BRUSH } from "@/work/blank";

export function BlankTrace({ view }: { readonly view: StageView }): ReactElement | null {
  const stroke = useShaping((shaping) => shaping.blank);
  if (!stroke || stroke.length === 0) return null;
  const points = listed(stroke.map((at) => canvasToStage(view, at)));
  return <Trace data-shows="true" points={points} strokeWidth={BLANK_BRUSH} />;
}
