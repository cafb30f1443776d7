import type { ReactNode } from "react";
import { Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 10;
  display: grid;
  place-items: center;
  background: rgb(25 29 28 / 55%);
`;

const Card = styled(Modal)`
  width: min(40rem, calc(100vw - 1.5rem));
  max-height: calc(100vh - 1.5rem);
  overflow: auto;
  background: ${(p) => p.theme.sheet};
  border: 0.1875rem solid ${(p) => p.theme.ink};
`;

const Body = styled(Dialog)`
  display: grid;
  gap: ${(p) => p.theme.gap};
  padding: 1.5rem;
`;

const Title = styled(Heading)`
  font-size: 1.625rem;
  line-height: 1.2;
`;

interface DialogueProps {
  title: string;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
}

/** A question over the screen; Escape and a touch beside it close it. */
export function Dialogue({ title, open, onClose, children }: DialogueProps) {
  return (
    <Veil isOpen={open} onOpenChange={(is) => !is && onClose()} isDismissable>
      <Card>
        <Body>
          <Title slot="title">{title}</Title>
          {children}
        </Body>
      </Card>
    </Veil>
  );
}

/** What one should know, and need not act on. */
export const Notice = styled.p`
  padding: 0.625rem 0.875rem;
  border-left: 0.375rem solid ${(p) => p.theme.caution};
  background: ${(p) => p.theme.cautionOn};
  color: ${(p) => p.theme.caution};
  font-weight: 600;
`;

export const Complaint = styled.p`
  padding: 0.625rem 0.875rem;
  border-left: 0.375rem solid ${(p) => p.theme.stop};
  background: ${(p) => p.theme.stopOn};
  color: ${(p) => p.theme.stop};
  font-weight: 600;
`;
