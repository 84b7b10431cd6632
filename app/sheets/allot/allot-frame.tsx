import type { ReactNode } from 'react';
import { PagedSheet } from '../../parts/sheet-pages';

const pages = [
  { path: '', name: 'Desk' },
  { path: '/pinning', name: 'Pinning' },
  { path: '/io', name: 'I/O sheet' },
  { path: '/compare', name: 'Compare ECUs' },
] as const;

/** The Allot sheet's frame: the desk, the bench, the printed sheet, the comparison. */
export function AllotFrame(props: { summary: ReactNode; actions?: ReactNode; children: ReactNode }) {
  return <PagedSheet sheet="allot" pages={pages} label="Pages of the pin plan" {...props} />;
}
