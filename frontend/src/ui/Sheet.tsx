/** A dialog that lies over the page. */

import type { ReactElement, ReactNode } from "react";
import { Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { color, font } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";

interface SheetProps {
  readonly title: string;
  readonly isOpen: boolean;
  readonly width?: number;
  readonly children: ReactNode;
  onClose(): void;
}

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 20;
  display: grid;
  place-items: center;
  padding: 24px;
  background: rgb(30 27 23 / 45%);
`;

const Card = styled(Modal)<{ $width: number }>`
  width: min(100%, ${({ $width }) => $width}px);
  max-height: 100%;
  overflow: auto;
  border: 1px solid ${color.ruleStrong};
  border-radius: 2px;
  background: ${color.sheet};
  color: ${color.ink};
  box-shadow: 0 16px 50px rgb(0 0 0 / 30%);
`;

const Body = styled(Dialog)`
  padding: 24px 28px 28px;
  outline: none;
`;

const Head = styled.div`
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  margin-bottom: 16px;
`;

const Title = styled(Heading)`
  font-family: ${font.name};
  font-size: 22px;
  font-weight: 700;
`;

export function Sheet({ title, isOpen, width = 560, children, onClose }: SheetProps): ReactElement {
  return (
    <Veil isOpen={isOpen} isDismissable onOpenChange={(open) => !open && onClose()}>
      <Card $width={width}>
        <Body>
          <Head>
            <Title slot="title">{title}</Title>
            <QuietButton slot="close">Close</QuietButton>
          </Head>
          {children}
        </Body>
      </Card>
    </Veil>
  );
}
