import type { Edge } from '~/core/wheels/wheel';

/** Where and how a wheel is drawn. Angles are clock angles: 0 at the top, clockwise; mirrored when seen from the other side. */
export interface Frame {
  readonly centre: number;
  readonly mirrored?: boolean;
}

export interface Spot {
  readonly x: number;
  readonly y: number;
}

export function spotAt({ centre, mirrored }: Frame, degrees: number, radius: number): Spot {
  const angle = (((mirrored ? -degrees : degrees) - 90) * Math.PI) / 180;
  return {
    x: Number((centre + radius * Math.cos(angle)).toFixed(2)),
    y: Number((centre + radius * Math.sin(angle)).toFixed(2)),
  };
}
export const pointAt = (frame: Frame, degrees: number, radius: number): string => {
  const { x, y } = spotAt(frame, degrees, radius);
  return `${x} ${y}`;
};

/** Clock angle of a spot. */
export function angleOf({ centre, mirrored }: Frame, { x, y }: Spot): number {
  const degrees = (Math.atan2(y - centre, x - centre) * 180) / Math.PI + 90;
  return (((mirrored ? -degrees : degrees) % 360) + 360) % 360;
}

/** An arc from one clock angle on to a later one. */
export function arcTo(frame: Frame, from: number, to: number, radius: number): string {
  const span = to - from;
  const sweep = span > 0 !== Boolean(frame.mirrored) ? 1 : 0;
  return `A ${radius} ${radius} 0 ${Math.abs(span) > 180 ? 1 : 0} ${sweep} ${pointAt(frame, to, radius)}`;
}

/**
 * Outline of a wheel that turns clockwise, its angle 0 drawn at `zero` degrees. Edges are listed as they pass the sensor,
 * so later ones lie behind, counterclockwise.
 */
export function outline(edges: readonly Edge[], zero: number, low: number, high: number, frame: Frame): string {
  const at = (degrees: number) => zero - degrees;
  const parts = [`M ${pointAt(frame, at(edges[0].degrees), edges[0].level === 1 ? low : high)}`];
  edges.forEach((edge, index) => {
    const radius = edge.level === 1 ? high : low;
    const next = index + 1 < edges.length ? edges[index + 1].degrees : edges[0].degrees + 360;
    parts.push(`L ${pointAt(frame, at(edge.degrees), radius)}`, arcTo(frame, at(edge.degrees), at(next), radius));
  });
  return `${parts.join(' ')} Z`;
}
