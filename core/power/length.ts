import type { PlannedLink } from './propose';

/** Metres with the slack of each piece that plugs cut it into. */
export const laidMetres = ({ metres, cuts = 0 }: Pick<PlannedLink, 'metres' | 'cuts'>, slack: number): number =>
  metres + slack * (cuts + 1);
