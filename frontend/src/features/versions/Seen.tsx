/** A moment of a project as it is looked at beside others. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { previewUrl } from "@/api/calls";

export interface Seen {
  readonly projectId: string;
  readonly revision: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
}

const LARGE = 1600;
const SMALL = 640;

const Whole = styled.img`
  display: block;
  width: 100%;
  height: 100%;
  object-fit: contain;
`;

interface PrintProps {
  readonly seen: Seen;
  /** Where many are seen at once, each is small, and fetched when it comes into sight. */
  readonly isOneOfMany?: boolean;
}

/** It fills its place as far as its proportions let it. */
export function Print({ seen, isOneOfMany = false }: PrintProps): ReactElement {
  const { projectId, revision, name, width, height } = seen;
  return (
    <Whole
      src={previewUrl(projectId, revision, isOneOfMany ? SMALL : LARGE)}
      loading={isOneOfMany ? "lazy" : "eager"}
      alt={name}
      width={width}
      height={height}
      draggable={false}
    />
  );
}
