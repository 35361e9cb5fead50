/** Lines of words that are worked in order, dragged, and opened one at a time. */

import { Button, GridList, GridListItem } from "react-aria-components";
import styled from "styled-components";
import { color, font } from "@/theme/tokens";

export const Lines = styled(GridList)`
  display: grid;
  border-top: 1px solid ${color.rule};
  outline: none;
` as typeof GridList;

export const Line = styled(GridListItem)`
  display: grid;
  grid-template-columns: 16px 1fr;
  gap: 6px;
  align-items: baseline;
  padding: 7px 6px 7px 2px;
  border-bottom: 1px solid ${color.rule};
  border-left: 3px solid transparent;
  font-family: ${font.reading};
  font-size: 15px;
  outline: none;

  &[data-focus-visible] {
    outline: 2px solid ${color.on};
    outline-offset: -2px;
  }

  &[data-open="true"] {
    border-left-color: ${color.live};
    background: ${color.well};
  }

  &[data-off="true"] {
    color: ${color.softInk};
  }

  &[data-dragging] {
    opacity: 0.5;
  }
`;

export const Handle = styled(Button)`
  padding: 0;
  border: 0;
  background: none;
  color: ${color.ruleStrong};
  cursor: grab;
`;
