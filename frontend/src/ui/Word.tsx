/** A live word that is a button: it may open something, and stands among words. */

import { Button } from "react-aria-components";
import styled from "styled-components";
import { color, font } from "@/theme/tokens";

export const Word = styled(Button)`
  padding: 0;
  border: 0;
  background: none;
  color: ${color.live};
  font-family: ${font.reading};
  font-size: 15px;
  cursor: pointer;
  text-decoration: underline;
  text-decoration-color: ${color.liveRule};
  text-decoration-thickness: 1px;
  text-underline-offset: 4px;

  &[data-hovered] {
    text-decoration-color: currentColor;
  }
`;
