/** One facet of the open layer: its name, its clause of the sentence, and its controls when open. */

import type { ReactElement, ReactNode } from "react";
import { Button, Disclosure, DisclosurePanel, Heading } from "react-aria-components";
import styled from "styled-components";
import type { Facet } from "@/state/desk/selection";
import { useKeyName } from "@/state/ownKeys";
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
  padding: 4px 16px 4px 12px;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
`;

const Name = styled.span`
  color: ${color.softInk};
  font-size: 13px;
  font-weight: 650;

  > u {
    text-underline-offset: 3px;
  }

  [aria-expanded="true"] > & {
    color: ${color.live};
  }
`;

/** The facet's clause of the layer's sentence. */
const Clause = styled.span`
  color: ${color.live};
  font-family: ${font.reading};
  font-size: 15px;
  line-height: 1.35;
  overflow-wrap: anywhere;
  text-decoration: underline;
  text-decoration-color: ${color.liveRule};
  text-decoration-thickness: 1px;
  text-underline-offset: 4px;

  [data-hovered] > & {
    text-decoration-color: currentColor;
  }

  [aria-expanded="true"] > & {
    color: ${color.ink};
    text-decoration: none;
  }
`;

const Body = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  padding: 2px 16px 12px 12px;
`;

/** What is open stands between rules. */
const Row = styled(Disclosure)`
  &[data-expanded] {
    border: solid ${color.rule};
    border-width: 1px 0;
  }
`;

/** A facet's name, with the letter underlined that opens it. */
function Keyed({ name, facet }: Pick<FacetRowProps, "name" | "facet">): ReactElement {
  const key = useKeyName(facet === "lettering" ? "wash" : facet)?.toLowerCase() ?? "";
  const at = key.length === 1 ? name.toLowerCase().indexOf(key) : -1;
  if (at < 0) return <>{name}</>;
  return (
    <>
      {name.slice(0, at)}
      <u>{name[at]}</u>
      {name.slice(at + 1)}
    </>
  );
}

interface FacetRowProps {
  readonly name: string;
  readonly facet: Facet;
  readonly summary: string;
  readonly isOpen: boolean;
  readonly children: ReactNode;
  onOpen(): void;
}

/** One of them is always open: pressing the open one again keeps it. */
export function FacetRow(props: FacetRowProps): ReactElement {
  const { name, facet, summary, isOpen, children, onOpen } = props;
  return (
    <Row isExpanded={isOpen} onExpandedChange={onOpen}>
      <Title level={2}>
        <Head slot="trigger">
          <Name>
            <Keyed name={name} facet={facet} />
          </Name>
          <Clause data-clause="">{summary}</Clause>
        </Head>
      </Title>
      <DisclosurePanel>
        {isOpen ? (
          <Boundary what={`What ${name} sets`}>
            <Body>{children}</Body>
          </Boundary>
        ) : null}
      </DisclosurePanel>
    </Row>
  );
}
