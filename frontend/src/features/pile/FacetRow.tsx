/** One facet of the open layer: its name, what it is now, and its controls when open. */

import type { ReactElement, ReactNode } from "react";
import styled from "styled-components";
import { color, font } from "@/theme/tokens";

const Head = styled.button`
  display: grid;
  grid-template-columns: 64px 1fr;
  gap: 12px;
  align-items: baseline;
  width: 100%;
  padding: 7px 16px 7px 12px;
  border: 0;
  border-top: 1px solid ${color.rule};
  background: none;
  text-align: left;
  cursor: pointer;
`;

const Name = styled.span`
  font-weight: 650;

  &::first-letter {
    text-decoration: underline;
    text-underline-offset: 3px;
  }

  [aria-expanded="true"] > & {
    color: ${color.live};
  }
`;

const Summary = styled.span`
  color: ${color.softInk};
  font-family: ${font.reading};
  font-size: 14px;
`;

const Body = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
  padding: 4px 16px 14px 12px;
`;

interface FacetRowProps {
  readonly name: string;
  readonly summary: string;
  readonly isOpen: boolean;
  readonly children: ReactNode;
  onOpen(): void;
}

export function FacetRow({ name, summary, isOpen, children, onOpen }: FacetRowProps): ReactElement {
  return (
    <div>
      <Head type="button" aria-expanded={isOpen} onClick={onOpen}>
        <Name>{name}</Name>
        <Summary>{summary}</Summary>
      </Head>
      {isOpen ? <Body>{children}</Body> : null}
    </div>
  );
}
