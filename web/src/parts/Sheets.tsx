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
  width: min(640px, calc(100vw - 24px));
  max-height: calc(100vh - 24px);
  overflow: auto;
  background: ${(p) => p.theme.sheet};
  border: 3px solid ${(p) => p.theme.ink};
`;

const Body = styled(Dialog)`
  display: grid;
  gap: ${(p) => p.theme.gap};
  padding: 24px;
`;

const Title = styled(Heading)`
  font-size: 26px;
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

/** A field with its label above. */
export const Field = styled.label`
  display: grid;
  gap: 4px;
  font-size: ${(p) => p.theme.glance};
  font-weight: 600;
  input,
  textarea {
    min-height: ${(p) => p.theme.touchSmall};
    padding: 8px 12px;
    border: 2px solid ${(p) => p.theme.ruleStrong};
    background: ${(p) => p.theme.field};
    color: ${(p) => p.theme.ink};
    font: 400 20px/1.3 ${(p) => p.theme.text};
    width: 100%;
  }
  input:focus,
  textarea:focus {
    border-color: ${(p) => p.theme.ink};
    outline: 2px solid ${(p) => p.theme.ink};
  }
`;

/** One of several, where there are too many for buttons. */
export const Select = styled.select`
  flex: 2 1 180px;
  min-height: ${(p) => p.theme.touchSmall};
  min-width: 0;
  width: 100%;
  padding: 4px 10px;
  border: 2px solid ${(p) => p.theme.ink};
  background: ${(p) => p.theme.field};
  color: ${(p) => p.theme.ink};
  font: 600 ${(p) => p.theme.work} / 1.2 ${(p) => p.theme.text};
`;

export const Complaint = styled.p`
  padding: 10px 14px;
  border-left: 6px solid ${(p) => p.theme.stop};
  background: ${(p) => p.theme.stopOn};
  color: ${(p) => p.theme.stop};
  font-weight: 600;
`;
