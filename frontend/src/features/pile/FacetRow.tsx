/** One facet of the open layer: its name, what it is now, and its controls when open. */

import type { ReactElement, ReactNode } from "react";
import { Button, Disclosure, DisclosurePanel, Heading } from "react-aria-components";
import styled from "styled-components";
import { color, font } from "@/theme/tokens";
import { Boundary } from "@/ui/Boundary";

const Title = styled(Heading)`
  margin: 0;
  font: inherit;
`;

const Head = styled(Button)`
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

  > u {
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
  /** Which letter of its name opens it; the first unless said. */
  readonly keyed?: number;
  readonly summary: string;
  readonly isOpen: boolean;
  readonly children: ReactNode;
  onOpen(): void;
}

/** One of them is always open: pressing the open one again keeps it. */
export function FacetRow(props: FacetRowProps): ReactElement {
  const { name, keyed = 0, summary, isOpen, children, onOpen } = props;
  return (
    <Disclosure isExpanded={isOpen} onExpandedChange={onOpen}>
      <Title level={2}>
        <Head slot="trigger">
          <Name>
            {name.slice(0, keyed)}
            <u>{name[keyed]}</u>
            {name.slice(keyed + 1)}
          </Name>
          <Summary>{summary}</Summary>
        </Head>
      </Title>
      <DisclosurePanel>
        {isOpen ? (
          <Boundary what={`What ${name} sets`}>
            <Body>{children}</Body>
          </Boundary>
        ) : null}
      </DisclosurePanel>
    </Disclosure>
  );
}
