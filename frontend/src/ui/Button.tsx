/** Buttons, by how much they ask for attention. */

import { Button as AriaButton } from "react-aria-components";
import styled, { css } from "styled-components";
import { color } from "@/theme/tokens";

const base = css`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 6px;
  border: 1px solid transparent;
  border-radius: 2px;
  background: none;
  cursor: pointer;
  white-space: nowrap;

  &[data-disabled] {
    opacity: 0.45;
    cursor: default;
  }
`;

/** The one thing to do next. */
export const StrongButton = styled(AriaButton)`
  ${base}
  padding: 7px 14px;
  background: ${color.strong};
  color: ${color.strongInk};
  font-weight: 650;

  &[data-hovered] {
    background: ${color.on};
    color: ${color.onInk};
  }
`;

/** Something else that can be done. */
export const PlainButton = styled(AriaButton)`
  ${base}
  padding: 5px 10px;
  border-color: ${color.rule};
  background: ${color.sheet};

  &[data-hovered] {
    border-color: ${color.ruleStrong};
  }

  &[data-pressed] {
    background: ${color.well};
  }
`;

/** Something small in a row of others. */
export const QuietButton = styled(AriaButton)`
  ${base}
  padding: 4px 6px;
  color: ${color.softInk};

  &[data-hovered] {
    color: ${color.ink};
    background: ${color.well};
  }
`;
