/** The number of a step, in a ring; filled once it is done. */

import styled from "styled-components";
import { color, font } from "@/theme/tokens";

export const StepNumber = styled.span`
  display: inline-grid;
  flex: none;
  place-items: center;
  width: 20px;
  height: 20px;
  border: 1.5px solid ${color.ink};
  border-radius: 50%;
  font-family: ${font.control};
  font-size: 12px;

  &[data-done="true"] {
    border-color: ${color.on};
    background: ${color.on};
    color: ${color.onInk};
  }
`;
