/** A colour that opens the browser's own chooser. */

import { type ReactElement, useEffect, useRef } from "react";
import styled from "styled-components";
import { color } from "@/theme/tokens";

interface ColorWellProps {
  readonly label: string;
  readonly value: string;
  readonly isDisabled?: boolean;
  /** While the hand still chooses. */
  onPreview?(value: string): void;
  onChange(value: string): void;
}

const Well = styled.input`
  flex: none;
  width: 34px;
  height: 26px;
  padding: 2px;
  border: 1px solid ${color.ruleStrong};
  border-radius: 2px;
  background: ${color.sheet};
  cursor: pointer;
`;

export function ColorWell(props: ColorWellProps): ReactElement {
  const { label, value, isDisabled = false, onPreview, onChange } = props;
  const well = useRef<HTMLInputElement>(null);
  const chosen = useRef(onChange);
  chosen.current = onChange;
  useEffect(() => {
    const element = well.current;
    if (!element) return;
    // React's onChange is the browser's "input": it would make an edit of every move.
    const onChosen = () => chosen.current(element.value);
    element.addEventListener("change", onChosen);
    return () => element.removeEventListener("change", onChosen);
  }, []);
  useEffect(() => {
    if (well.current) well.current.value = value;
  }, [value]);
  return (
    <Well
      ref={well}
      type="color"
      aria-label={label}
      title={label}
      defaultValue={value}
      disabled={isDisabled}
      onInput={(event) => onPreview?.(event.currentTarget.value)}
    />
  );
}
