/** A live word in a sentence: a button that breaks over lines as words do. */

import { type ReactElement, type ReactNode, useRef } from "react";
import { type AriaButtonProps, useButton } from "react-aria";
import styled from "styled-components";
import { color } from "@/theme/tokens";

const Word = styled.span`
  border-radius: 2px;
  color: ${color.live};
  cursor: pointer;
  text-decoration: underline;
  text-decoration-color: ${color.liveRule};
  text-decoration-thickness: 1px;
  text-underline-offset: 4px;

  &:hover {
    text-decoration-color: currentColor;
  }

  &[aria-pressed="true"] {
    color: ${color.on};
    font-weight: 650;
  }

  &[data-name="true"] {
    color: ${color.ink};
    font-weight: 680;
    text-decoration: none;
  }
`;

interface LiveWordProps {
  readonly children: ReactNode;
  /** What a screen reader says instead of the word alone. */
  readonly label?: string;
  readonly isName?: boolean;
  readonly isExpanded?: boolean;
  /** Whether it is on, where it is switched on and off. */
  readonly isOn?: boolean;
  onPress(): void;
}

export function LiveWord(props: LiveWordProps): ReactElement {
  const ref = useRef<HTMLSpanElement>(null);
  const options: AriaButtonProps<"span"> = { elementType: "span", onPress: props.onPress };
  if (props.label !== undefined) options["aria-label"] = props.label;
  if (props.isExpanded !== undefined) options["aria-expanded"] = props.isExpanded;
  if (props.isOn !== undefined) options["aria-pressed"] = props.isOn;
  const { buttonProps } = useButton(options, ref);
  return (
    <Word {...buttonProps} ref={ref} data-name={props.isName ?? false}>
      {props.children}
    </Word>
  );
}
