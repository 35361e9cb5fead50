/** Having levels found by what is pointed at, or by all that shows. */

import { askForLevels } from "@/api/calls";
import type { TonedLayer } from "@/model/composite";
import { findOut } from "@/state/finding";
import { savedRevision } from "@/state/project";
import type { SpotRole } from "@/state/toning";
import type { DeskActions } from "@/work/DeskContext";
import { setFound } from "@/work/toning/found";

interface Sought {
  readonly role: SpotRole | "ends" | "each";
  readonly x?: number;
  readonly y?: number;
  readonly radius?: number;
}

/** Have levels found, and set them. */
export async function findLevels(
  desk: DeskActions,
  layer: TonedLayer,
  place: number,
  { role, x = 0, y = 0, radius = 1 }: Sought,
): Promise<void> {
  await findOut(async () => {
    const revision = await savedRevision();
    const asked = { revision, layer_id: layer.id, place, x, y, radius, role };
    setFound(desk, layer.id, place, await askForLevels(desk.projectId, asked));
  });
}
