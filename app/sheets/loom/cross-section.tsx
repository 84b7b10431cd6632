import { memo } from 'react';
import { styled } from 'styled-components';
import type { Bundle } from '~/core/loom/bundles';
import { plural } from '~/core/units/format';
import type { Units } from '~/core/units/units';
import { readMeasure } from '~/core/units/workshop';
import { splitColour } from '~/core/wire/colours';
import { COPPER, insulationColour } from '../../parts/wire-mark';
import { Small, Stack } from '../../ui/text';
import { color } from '../../ui/theme';

/** Sides of the drawing and of the hole beside it, pixels, and what is left round the widest circle. */
const SIDE = 196;
const HOLE_SIDE = 76;
const EDGE = 4;

/** A bundle cut across: its wires as they lie, in their colours, in the covering, in the hole. */
export const CrossSection = memo(function CrossSection({
  name,
  bundle,
  holeMillimetres,
  units,
  chosen,
}: {
  name: string;
  bundle: Bundle;
  /** Null: it goes through none. */
  holeMillimetres: number | null;
  units: Units;
  /** Wires to be found in it. */
  chosen: ReadonlySet<string>;
}) {
  const { wires, laid, bareMillimetres, millimetres } = bundle;
  if (wires.length === 0) return null;
  const scale = (SIDE - 2 * EDGE) / millimetres;
  const inHole = (HOLE_SIDE - 2 * EDGE) / Math.max(millimetres, holeMillimetres ?? 0);
  const fits = holeMillimetres === null || millimetres <= holeMillimetres;
  const read = (value: number) => readMeasure('thickness', value, { units });
  const words = `${plural(wires.length, 'wire')}, ${read(bareMillimetres)} bare, ${read(millimetres)} in the covering${holeMillimetres === null ? '' : `; the hole is ${readMeasure('diameter', holeMillimetres, { units })}`}.`;
  return (
    <Stack $gap={2}>
      <Figure>
        <svg
          width={SIDE}
          height={SIDE}
          viewBox={`${-SIDE / 2} ${-SIDE / 2} ${SIDE} ${SIDE}`}
          role="img"
          aria-label={`${name}, cut across: ${words}`}
        >
          <circle r={(millimetres / 2) * scale} fill={color.raised} stroke={color.ink} strokeWidth="1.5" />
          {wires.map(({ id, colour }, at) => {
            const { x, y, r } = laid[at]!;
            const { base, stripe } = splitColour(colour);
            const own = r * scale - 0.5;
            return (
              <g key={id} transform={`translate(${x * scale} ${y * scale})`}>
                <circle r={own} fill={insulationColour(base)} stroke={color.ink} strokeWidth="0.8" />
                {stripe && (
                  <path
                    d={`M0 0L${own * Math.cos(-1.9)} ${own * Math.sin(-1.9)}A${own} ${own} 0 0 1 ${own * Math.cos(-1.24)} ${own * Math.sin(-1.24)}Z`}
                    fill={insulationColour(stripe)}
                  />
                )}
                <circle r={own * 0.5} fill={COPPER} stroke={color.ink} strokeWidth="0.6" />
              </g>
            );
          })}
          {wires.map(({ id }, at) => {
            if (!chosen.has(id)) return null;
            const { x, y, r } = laid[at]!;
            const place = { cx: x * scale, cy: y * scale, r: r * scale + 1.5, fill: 'none' };
            return (
              <g key={id}>
                <circle {...place} stroke={color.sheet} strokeWidth="6" />
                <circle {...place} stroke={color.selection} strokeWidth="3" />
              </g>
            );
          })}
        </svg>
        {holeMillimetres !== null && (
          <svg
            width={HOLE_SIDE}
            height={HOLE_SIDE}
            viewBox={`${-HOLE_SIDE / 2} ${-HOLE_SIDE / 2} ${HOLE_SIDE} ${HOLE_SIDE}`}
            aria-hidden
            focusable="false"
          >
            <circle
              r={(holeMillimetres / 2) * inHole}
              fill="none"
              stroke={fits ? color.ink : color.fix}
              strokeWidth="2"
              strokeDasharray={fits ? undefined : '5 3'}
            />
            <circle r={(millimetres / 2) * inHole} fill={color.raised} stroke={color.ink} strokeWidth="1.5" />
          </svg>
        )}
      </Figure>
      <Small>{words}</Small>
    </Stack>
  );
});

const Figure = styled.div`
  display: flex;
  align-items: end;
  gap: 10px;
`;
