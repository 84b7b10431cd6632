import type { ReactNode } from 'react';
import { PagedSheet } from '../../parts/sheet-pages';

const pages = [
  { path: '', name: 'Devices' },
  { path: '/identify', name: 'Identify' },
  { path: '/donor', name: 'Donor loom' },
  { path: '/body', name: 'Body plugs' },
  { path: '/sensing', name: 'Sensing' },
  { path: '/fuel', name: 'Fuel and spark' },
  { path: '/notes', name: 'Notes' },
] as const;

/** The Survey sheet's frame: one sheet, seven pages. */
export function SurveyFrame(props: { summary: ReactNode; actions?: ReactNode; children: ReactNode }) {
  return <PagedSheet sheet="survey" pages={pages} label="Pages of the survey" {...props} />;
}
