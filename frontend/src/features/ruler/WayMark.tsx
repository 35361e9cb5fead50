/** Our mark of another way: a path that leaves the straight one. */

import type { ReactElement } from "react";

export function WayMark({ size }: { readonly size: number }): ReactElement {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 16 16"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.6}
      aria-hidden="true"
    >
      <path d="M1 4.5H15M4 4.5C9 4.5 7 12 13 12" />
      <path d="M10.8 9.8L13.4 12L10.8 14.2" />
    </svg>
  );
}
