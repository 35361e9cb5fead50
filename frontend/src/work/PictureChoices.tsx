/** Pictures of the shelf to choose one from, in a menu. */

import type { ReactElement } from "react";
import { Menu, MenuItem } from "react-aria-components";
import styled from "styled-components";
import { thumbnailUrl } from "@/api/calls";
import type { Picture } from "@/api/types";
import { color } from "@/theme/tokens";

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

interface PictureChoicesProps {
  readonly pictures: readonly Picture[];
  onTake(picture: Picture): void;
}

export function PictureChoices({ pictures, onTake }: PictureChoicesProps): ReactElement {
  return (
    <Choices
      aria-label="Pictures of the shelf"
      onAction={(id) => {
        const picture = pictures.find((one) => one.id === id);
        if (picture) onTake(picture);
      }}
    >
      {pictures.map((picture) => (
        <Choice key={picture.id} id={picture.id} textValue={picture.name}>
          <img src={thumbnailUrl(picture.id)} alt="" />
          {picture.name}
        </Choice>
      ))}
    </Choices>
  );
}
