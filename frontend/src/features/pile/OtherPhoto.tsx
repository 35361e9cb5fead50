/** Another photo of the shelf at the same place, with all that was done to this one. */

import { useQuery } from "@tanstack/react-query";
import type { ReactElement } from "react";
import { Menu, MenuItem, SubmenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { fetchShelf, thumbnailUrl } from "@/api/calls";
import type { PhotoLayer } from "@/model/composite";
import { color } from "@/theme/tokens";
import { ActionItem } from "@/ui/ActionMenu";
import { Card } from "@/ui/LiveSelect";
import { useDeskActions } from "@/work/DeskContext";

const Choices = styled(Menu)`
  display: grid;
  grid-template-columns: repeat(3, 96px);
  gap: 6px;
  max-height: 320px;
  overflow: auto;
  outline: none;
`;

const Choice = styled(MenuItem)`
  overflow: hidden;
  padding: 4px;
  border-radius: 2px;
  font-size: 12px;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
  outline: none;

  &[data-focused] {
    background: ${color.well};
  }

  img {
    display: block;
    width: 88px;
    height: 64px;
    object-fit: cover;
  }
`;

interface OtherPhotoProps {
  readonly layer: PhotoLayer;
  readonly isOff: boolean;
}

export function OtherPhoto({ layer, isOff }: OtherPhotoProps): ReactElement {
  const desk = useDeskActions();
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: fetchShelf });
  const pictures = (shelf.data ?? []).filter(({ id }) => id !== layer.picture);
  const exchange = (id: string) => {
    const picture = pictures.find((one) => one.id === id);
    if (!picture) return;
    const { name, width, height } = picture;
    desk.edit({
      kind: "exchange_photo",
      layer_id: layer.id,
      picture: id,
      name,
      width,
      height,
    });
  };
  return (
    <SubmenuTrigger>
      <ActionItem isDisabled={isOff || pictures.length === 0}>Same place, other photo…</ActionItem>
      <Card>
        <Choices onAction={(id) => exchange(String(id))}>
          {pictures.map((picture) => (
            <Choice key={picture.id} id={picture.id} textValue={picture.name}>
              <img src={thumbnailUrl(picture.id)} alt="" />
              {picture.name}
            </Choice>
          ))}
        </Choices>
      </Card>
    </SubmenuTrigger>
  );
}
