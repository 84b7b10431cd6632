import type { ReactNode } from 'react';
import { PagedSheet } from '../../parts/sheet-pages';

const pages = [
  { path: '', name: 'Wheel and offset' },
  { path: '/wheels', name: 'Wheels' },
  { path: '/bench', name: 'Bench' },
  { path: '/light', name: 'Timing light' },
] as const;

/** The Trigger sheet's frame: the wheel as planned, and what a capture shows of it. */
export function TriggerFrame(props: { summary: ReactNode; actions?: ReactNode; children: ReactNode }) {
  return <PagedSheet sheet="trigger" pages={pages} label="Pages of the trigger sheet" {...props} />;
}
