import type { ReactNode } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { styled } from 'styled-components';
import { useEachLater } from '../../build/context';
import { messageOf } from '../../storage/failure';
import { color, type } from '../../ui/theme';

/** Keeps the rest of the shell alive when one part of it cannot be drawn, and says which; it is tried again after the next edit. */
export function Guard({ part, fallback, children }: { part: string; fallback?: ReactNode; children: ReactNode }) {
  const derived = useEachLater();
  return (
    <ErrorBoundary
      resetKeys={[derived]}
      fallbackRender={({ error }) =>
        fallback ?? (
          <Broken role="alert">
            {part} cannot be shown: {messageOf(error)}
          </Broken>
        )
      }
    >
      {children}
    </ErrorBoundary>
  );
}

const Broken = styled.p`
  font-size: ${type.small};
  color: ${color.stop};
  overflow-wrap: anywhere;
`;
