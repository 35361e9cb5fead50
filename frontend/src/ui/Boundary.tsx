/** Holds up what goes wrong in one part of the page, so that all else goes on. */

import type { ReactElement, ReactNode } from "react";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import styled from "styled-components";
import { font } from "@/theme/tokens";
import { PlainButton } from "@/ui/Button";

const Note = styled.div`
  display: grid;
  place-content: center;
  justify-items: start;
  gap: 10px;
  min-height: 0;
  padding: 14px 18px;
  font-family: ${font.reading};
  font-size: 16px;
`;

interface BoundaryProps {
  /** What cannot be shown then, such as "The stage". */
  readonly what: string;
  /** What is shown: when one of these changes, it is tried again. */
  readonly of?: readonly unknown[];
  readonly children: ReactNode;
}

export function Boundary({ what, of = [], children }: BoundaryProps): ReactElement {
  return (
    <ErrorBoundary
      resetKeys={[...of]}
      fallbackRender={(trouble) => <Trouble what={what} {...trouble} />}
    >
      {children}
    </ErrorBoundary>
  );
}

function Trouble({
  what,
  error,
  resetErrorBoundary,
}: FallbackProps & { readonly what: string }): ReactElement {
  const isOld = isMissingChunk(error);
  return (
    <Note role="alert">
      <p>
        {isOld
          ? `${what} could not be fetched: the connection is lost, or Glyphaneme was renewed meanwhile.`
          : `${what} cannot be shown: something went wrong on our side.`}{" "}
        Nothing you made is lost.
      </p>
      <PlainButton onPress={isOld ? reload : resetErrorBoundary}>Open again</PlainButton>
    </Note>
  );
}

/** Tell whether a part of the page itself did not come; asked again it never does. */
function isMissingChunk(error: unknown): boolean {
  return error instanceof Error && /import|module|chunk|preload/i.test(error.message);
}

function reload(): void {
  window.location.reload();
}
