/** Offers to line a photo up with another; how that is done is loaded when it is wanted. */

import { lazy, type ReactElement, Suspense, useState } from "react";
import type { LineUpProps } from "@/features/place/LineUpWork";
import { LINING_UP } from "@/model/aligning";
import { allLayers } from "@/model/composite";
import { useDesk } from "@/state/desk/desk";
import { LiveWord } from "@/ui/LiveWord";
import { Words } from "@/ui/Words";

const LineUpWork = lazy(async () => ({
  default: (await import("@/features/place/LineUpWork")).LineUpWork,
}));

export function LineUp(props: LineUpProps): ReactElement | null {
  const { layer, composite } = props;
  const [isOpened, setOpen] = useState(false);
  const isAsked = useDesk((desk) => desk.line === LINING_UP);
  const isOpen = isOpened || isAsked;
  const hasOther = allLayers(composite.layers).some(
    (one) => one.kind === "photo" && one.id !== layer.id,
  );
  if (!hasOther) return null;
  if (isOpen) {
    return (
      <Suspense>
        <LineUpWork {...props} />
      </Suspense>
    );
  }
  return (
    <Words>
      Does it show the same place as another photo?{" "}
      <LiveWord onPress={() => setOpen(true)}>Line it up</LiveWord>.
    </Words>
  );
}
