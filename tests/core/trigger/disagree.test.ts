import { describe, expect, test } from '@jest/globals';
import type { Build } from '~/core/build/schema';
import { disagreements, type Disagreement } from '~/core/trigger/disagree';
import { match, type Match } from '~/core/trigger/match';
import { demoBuild, wheel } from '../../helpers';
import { engines, fieldCapture, type FieldSpec } from '../../other-engine';

/** The demo build has 60-2 before a VR sensor on the crank and one tooth on the cam before a Hall sensor. */
const wheels = ['36-1', '60-2', '24-1', 'coded-24', 'cam-1', 'cam-4-window'].map(wheel);
function found(more: Partial<FieldSpec> = {}): Match {
  const result = match(
    fieldCapture({
      wheel: wheel('60-2'),
      cam: wheel('cam-1'),
      sensor: 'vr-flux',
      seed: 3,
      rpm: 210,
      seconds: 2.4,
      samples: 20,
      tops: engines.five,
      swing: 0.25,
      ...more,
    }),
    { wheels },
  );
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
}
const withEdge = (crankEdge: Build['trigger']['crankEdge']): Build => {
  const build = demoBuild();
  return { ...build, trigger: { ...build.trigger, crankEdge } };
};
const whats = (all: readonly Disagreement[]) => all.map(({ what }) => what);

describe('where a capture and the build disagree, both are said', () => {
  test('nothing, where they agree', () => {
    expect(disagreements(found(), demoBuild())).toEqual([]);
    expect(disagreements(found(), withEdge('falling'))).toEqual([]);
  });
  test('the edge', () => {
    const [one, ...more] = disagreements(found(), withEdge('rising'));
    expect(more).toEqual([]);
    expect(one).toMatchObject({ what: 'edge', build: 'rising edge', capture: 'falling edge' });
    expect(one.sentence).toMatch(/takes the rising edge; the capture is told by the falling one/);
  });
  test('leads the other way round, unless the ECU takes the other edge', () => {
    const swapped = found({ reversed: true });
    expect(whats(disagreements(swapped, demoBuild()))).toEqual(['polarity']);
    expect(disagreements(swapped, withEdge('rising'))).toEqual([]);
    expect(whats(disagreements(swapped, withEdge('falling')))).toEqual(['edge', 'polarity']);
  });
  test('either edge of a square signal does for even teeth and gaps', () => {
    const square = found({ sensor: 'hall' });
    for (const edge of ['rising', 'falling'] as const)
      expect(whats(disagreements(square, withEdge(edge)))).toEqual(['crank sensor']);
  });
  test('the kind of sensor', () => {
    const [one] = disagreements(found({ sensor: 'hall' }), demoBuild());
    expect(one.sentence).toMatch(/VR sensor \(two wires\).*shows a square signal/);
  });
  test('the wheel on the crank, and the one on the cam', () => {
    expect(disagreements(found({ wheel: wheel('36-1') }), demoBuild())).toMatchObject([
      { what: 'crank wheel', sentence: expect.stringMatching(/60 places, 2 missing; the capture shows 36 places, 1/) },
    ]);
    const cam = disagreements(found({ cam: wheel('cam-4-window') }), demoBuild());
    expect(cam).toMatchObject([{ what: 'cam wheel', wheel: { id: 'cam-4-window' } }]);
  });
});
