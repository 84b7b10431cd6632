import { labelOf } from '~/core/netlist/label';
import { styled } from 'styled-components';
import { countingWords } from '~/core/ecu/face';
import { deviceEnd, ecuEnd, endOf, pinAt, plugEnd, type EndKey, type EndRef } from '~/core/ends/ends';
import { endPlace } from '~/core/loom/end-places';
import { halfAt, halfWords } from '~/core/loom/plug-face';
import type { ProveTest } from '~/core/prove/prove-test';
import { useBuild, useLater } from '../../build/context';
import { Neighbourhood } from '../../parts/neighbourhood';
import { useFaceCavities } from '../../parts/face-cavities';
import { deviceCavities, plugCavities } from '../../parts/plug-cavities';
import { Row, Small, Soft, Stack } from '../../ui/text';
import { type } from '../../ui/theme';
import { useStable } from '../../ui/use-stable';
import { FindingMark } from '../../parts/findings/finding-mark';

/** The end of which a cavity of the same plug is written so. */
const endAt = (ref: EndRef, written: string): EndKey =>
  ref.of === 'ecu'
    ? ecuEnd(written)
    : ref.of === 'device'
      ? deviceEnd(ref.device, written)
      : plugEnd(ref.part, Number(written));

/** The plug a probe is held in, drawn about its cavity. */
function Held({ test, end, other, of }: { test: ProveTest; end: EndKey; other: EndKey; of: 'hold' | 'touch' }) {
  const { build, derived, select } = useBuild();
  const { net } = derived;
  const { progress } = useLater();
  const faces = useFaceCavities();
  const ref = endOf(end);
  const onPress = useStable((written: string) => select({ type: 'end', end: endAt(ref, written) }));
  const place = endPlace(build, net, end);
  if (!place) return null;
  const half = of === 'hold' || test.wireIds.length === 0 ? test.half : halfAt(build, net, end, test.wireIds);
  const name = ref.of === 'ecu' ? undefined : `the plug of ${place.plug}`;
  const across = endPlace(build, net, other);
  const cavities =
    ref.of === 'ecu'
      ? (faces.get(place.plug) ?? [])
      : ref.of === 'device'
        ? deviceCavities(build, { net, progress }, ref.device)
        : plugCavities(build, { net, progress }, ref.part, half ?? 'near');
  return (
    <Neighbourhood
      connector={place.connector}
      cavity={place.cavity}
      cavities={cavities}
      side={half === 'far' ? 'mating' : 'wire'}
      touched={across?.connector === place.connector ? across.written : undefined}
      name={name}
      onPress={onPress}
    />
  );
}

/** Where both probes go: the plug that is held, and the far one where it was drawn. */
export function Place({ test }: { test: ProveTest }) {
  const { build, derived } = useBuild();
  const { net } = derived;
  const place = endPlace(build, net, test.hold);
  const touched = test.kind === 'continuity' ? endPlace(build, net, test.touch) : null;
  const far = touched && touched.connector !== place?.connector ? touched : null;
  const farHalf = far ? halfAt(build, net, test.touch, test.wireIds) : undefined;
  return (
    <Stack $gap={2}>
      <Row $gap={4}>
        <Big>{pinAt(test.hold) ?? labelOf(net, test.hold)}</Big>
        <div>
          <Lead>
            {test.kind === 'isolation' ? 'against' : 'to'} {labelOf(net, test.touch)}{' '}
            {test.wireIds[0] !== undefined && <FindingMark thing={{ type: 'wire', wireId: test.wireIds[0] }} />}
          </Lead>
          {test.half && <strong>{halfWords[test.half]}, not put together yet. </strong>}
          {place && (
            <Soft>{countingWords(place.connector, place.cavity, test.half === 'far' ? 'mating' : 'wire', 'wire')}</Soft>
          )}
        </div>
      </Row>
      <Held test={test} end={test.hold} other={test.touch} of="hold" />
      {far && (
        <>
          <Small>
            At {far.plug}
            {farHalf ? `, ${halfWords[farHalf]}` : ''}:{' '}
            {countingWords(far.connector, far.cavity, farHalf === 'far' ? 'mating' : 'wire', 'wire')}
          </Small>
          <Held test={test} end={test.touch} other={test.hold} of="touch" />
        </>
      )}
    </Stack>
  );
}

const Big = styled.span`
  font-size: ${type.figure};
  font-weight: 700;
  line-height: 1.05;
  max-width: 280px;
  overflow-wrap: anywhere;
  &:not(:only-child) {
    font-size: clamp(24px, 3.4vw, 44px);
  }
`;
const Lead = styled.p`
  font-size: ${type.lead};
`;
