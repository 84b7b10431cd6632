import { useContext, useEffect, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { styled } from 'styled-components';
import type { Selection } from '~/core/netlist/run';
import { at, space } from '../ui/theme';
import { SlotsContext } from './shell/slots';

/**
 * What a sheet gives to the shell it stands in: its state in words and its tools, which are shown in the shell's head, and what
 * the run is of when the sheet has its own idea of it. What is within is the work itself.
 */
export function SheetFrame({
  summary,
  actions,
  showing,
  children,
}: {
  summary: ReactNode;
  actions?: ReactNode;
  showing?: Selection;
  children: ReactNode;
}) {
  const { verdict, tools, shown } = useContext(SlotsContext);
  useEffect(() => shown.set(showing ?? null), [shown, showing]);
  useEffect(() => () => shown.set(null), [shown]);
  return (
    <>
      {verdict && createPortal(summary, verdict)}
      {tools && actions && createPortal(actions, tools)}
      {children}
    </>
  );
}

/** The place of a sheet in the window. */
export const Page = styled.main`
  min-width: 0;
  min-height: 0;
  height: 100dvh;
  padding: 8px 8px 8px 0;
  ${at.narrow} {
    height: auto;
    min-height: 100dvh;
    padding: ${space[2]} ${space[2]} 128px;
  }
  ${at.print} {
    height: auto;
    padding: 0;
  }
`;
