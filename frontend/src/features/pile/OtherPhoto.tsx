/** Another photo of the shelf at the same place, with all that was done to this one. */

import { useQuery } from "@tanstack/react-query";
import type { ReactElement } from "react";
import { SubmenuTrigger } from "react-aria-components";
import { fetchShelf } from "@/api/calls";
import type { Picture } from "@/api/types";
import type { PhotoLayer } from "@/model/composite";
import { ActionItem } from "@/ui/ActionMenu";
import { Card } from "@/ui/LiveSelect";
import { useDeskActions } from "@/work/DeskContext";
import { PictureChoices } from "@/work/PictureChoices";

interface OtherPhotoProps {
  readonly layer: PhotoLayer;
  readonly isOff: boolean;
}

export function OtherPhoto({ layer, isOff }: OtherPhotoProps): ReactElement {
  const desk = useDeskActions();
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: fetchShelf });
  const pictures = (shelf.data ?? []).filter(({ id }) => id !== layer.picture);
  const exchange = ({ id, name, width, height }: Picture) =>
    desk.edit({
      kind: "exchange_photo",
      layer_id: layer.id,
      picture: id,
      name,
      width,
      height,
    });
  return (
    <SubmenuTrigger>
      <ActionItem isDisabled={isOff || pictures.length === 0}>Same place, other photo…</ActionItem>
      <Card>
        <PictureChoices pictures={pictures} onTake={exchange} />
      </Card>
    </SubmenuTrigger>
  );
}
