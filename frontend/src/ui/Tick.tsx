/** A box to tick, with its words. */

import { Checkbox } from "react-aria-components";
import styled from "styled-components";
import { color } from "@/theme/tokens";

export const Tick = styled(Checkbox)`
  display: flex;
  align-items: center;
  gap: 8px;
  color: ${color.softInk};
  cursor: pointer;

  &::before {
    content: "";
    width: 14px;
    height: 14px;
    border: 1px solid ${color.ruleStrong};
    background: ${color.sheet};
  }

  &[data-selected]::before {
    border-color: ${color.on};
    background: ${color.on};
    box-shadow: inset 0 0 0 2px ${color.sheet};
  }

  &[data-focus-visible]::before {
    outline: 2px solid ${color.on};
    outline-offset: 2px;
  }
`;
