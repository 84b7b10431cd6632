import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button as AriaButton, Dialog as AriaDialog, Heading, Modal, ModalOverlay } from 'react-aria-components';
import { styled } from 'styled-components';
import { at, color, shape, space, type } from './theme';

const Overlay = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 20;
  background: rgb(10 12 14 / 0.45);
  display: grid;
  place-items: start center;
  padding: 8vh ${space[4]} ${space[4]};
  overflow: auto;
  ${at.narrow} {
    padding: ${space[3]};
  }
`;
const Frame = styled(Modal)<{ $wide: boolean }>`
  width: min(100%, ${({ $wide }) => ($wide ? '880px' : '520px')});
  background: ${color.sheet};
  border: ${shape.line} solid ${color.ink};
  border-radius: ${shape.radius};
`;
const Body = styled(AriaDialog)`
  padding: ${space[5]};
  outline: none;
  display: grid;
  gap: ${space[4]};
  ${at.narrow} {
    padding: ${space[4]};
  }
`;
const Top = styled.div`
  display: flex;
  align-items: start;
  justify-content: space-between;
  gap: ${space[3]};
`;
const Title = styled(Heading)`
  font-size: ${type.lead};
  font-weight: 700;
`;
const Close = styled(AriaButton)`
  border: 0;
  background: none;
  padding: ${space[1]};
  min-width: 32px;
  min-height: 32px;
  cursor: pointer;
`;

export function Dialog({
  title,
  isOpen,
  onClose,
  wide = false,
  children,
}: {
  title: string;
  isOpen: boolean;
  onClose: () => void;
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <Overlay isOpen={isOpen} onOpenChange={(open) => !open && onClose()} isDismissable>
      <Frame $wide={wide}>
        <Body>
          <Top>
            <Title slot="title">{title}</Title>
            <Close aria-label="Close" onPress={onClose}>
              <X size={20} aria-hidden />
            </Close>
          </Top>
          {children}
        </Body>
      </Frame>
    </Overlay>
  );
}

export const DialogActions = styled.div`
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: ${space[3]};
`;
