/** What the shelf's own pictures and those of the library have in common. */

import type { ReactElement, ReactNode } from "react";
import styled from "styled-components";
import { color, font } from "@/theme/tokens";

export const Soft = styled.span`
  color: ${color.softInk};
`;

export const Grid = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
  gap: 10px;
`;

/** A picture that is laid on with a click. */
export const Tile = styled.button`
  display: grid;
  gap: 4px;
  width: 100%;
  padding: 0;
  border: 0;
  background: none;
  font-size: 12.5px;
  text-align: left;
  scroll-margin: 10px;
  cursor: grab;

  &[data-marked="true"] {
    outline: 3px solid ${color.on};
    outline-offset: 2px;
  }

  img {
    width: 100%;
    height: 76px;
    background: ${color.well};
    object-fit: cover;
  }

  img[data-whole="true"] {
    background: radial-gradient(#a9a59c 1px, #eceae5 1.2px) 0 0 / 9px 9px;
    object-fit: contain;
  }

  span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }

  &:hover img {
    outline: 2px solid ${color.on};
  }
`;

const Head = styled.h2`
  font-family: ${font.reading};
  font-size: 14px;
  font-weight: 400;

  &::first-letter {
    text-transform: uppercase;
  }

  small {
    color: ${color.softInk};
  }
`;

const Whole = styled.section`
  display: grid;
  gap: 6px;
`;

interface TileSetProps {
  readonly title: string;
  readonly count: number;
  readonly children: ReactNode;
}

export function TileSet({ title, count, children }: TileSetProps): ReactElement {
  return (
    <Whole aria-label={title}>
      <Head>
        {title} <small>{count}</small>
      </Head>
      {children}
    </Whole>
  );
}
