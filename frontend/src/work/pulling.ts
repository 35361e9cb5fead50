/** Pulling the corners of a photo, as far as it stays sound. */

import type { FlatLayer, Placement } from "@/model/composite";
import { canvasToPlane } from "@/model/geometry";
import type { Point } from "@/model/points";
import { cornerPoints, cornersAt } from "@/model/shaping";
import { useDesk } from "@/state/desk/desk";

/** Pull a corner to a position, unless the picture would fold; then it stays as it is. */
export function pulledCorner(layer: FlatLayer, place: number, to: Point): Placement {
  const at = canvasToPlane(layer, to);
  const points = cornerPoints(layer.placement.corners).map((one, other) =>
    other === place ? at : one,
  );
  const corners = cornersAt(points);
  return corners ? { ...layer.placement, corners } : lastSound(layer);
}

/** What was shown last: a drag that goes too far stays where it was still possible. */
function lastSound(layer: FlatLayer): Placement {
  const { live } = useDesk.getState();
  const isIts = live?.kind === "place_layer" && live.layer_id === layer.id;
  return isIts ? { ...layer.placement, corners: live.placement.corners } : layer.placement;
}
