import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { hasRole } from '~/core/devices/kind';
import {
  SPEED_TOLERANCE,
  hertzAt,
  movedFactor,
  pulsesPerKm,
  pulsesPerMile,
  pulsesPerWheelTurn,
  rolledMetres,
  usualChain,
  type SpeedChain,
} from '~/core/speed/chain';
import { plural } from '~/core/units/format';
import { readQuantity } from '~/core/units/units';
import { readMeasure } from '~/core/units/workshop';
import { useBuild } from '../../build/context';
import { SheetFrame } from '../../parts/sheet-frame';
import { Button } from '../../ui/button';
import { Checkbox } from '../../ui/choice';
import { Table } from '../../ui/table';
import { Heading, OnScreen, Row, Small, Soft, Stack, TwoColumns } from '../../ui/text';
import { color, shape, space, type } from '../../ui/theme';
import { Gauges } from './road-speed-gauges';
import { Reads, TyreForm } from './road-speed-gears';

/** Where the sheet shows what a pin counts, km/h. */
const SHOWN_KMH = [10, 50, 100, 200];
/** A walking pace, at which a wrong gauge is tried, km/h. */
const TRIED_KMH = 8;
function Told({ chain }: { chain: SpeedChain }) {
  const { build } = useBuild();
  const perKm = pulsesPerKm(chain, chain.tyre);
  const moved = movedFactor(chain);
  return (
    <Stack $gap={3}>
      <Heading>What the ECU must be told</Heading>
      <Big>
        <span>
          {perKm.toFixed(0)} <Soft>pulses a km</Soft>
        </span>
        <span>
          {pulsesPerMile(perKm).toFixed(0)} <Soft>a mile</Soft>
        </span>
      </Big>
      <Small>
        {pulsesPerWheelTurn(chain).toFixed(2)} pulses a turn of the wheel,{' '}
        {readMeasure('rolled', rolledMetres(chain.tyre), build)} a turn. Give the ECU whichever of these it asks for.
      </Small>
      <Table data-dense="true">
        <thead>
          <tr>
            <th scope="col">at</th>
            {SHOWN_KMH.map((kmh) => (
              <th key={kmh} scope="col" className="figure">
                {readQuantity('road-speed', kmh, build)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">sensor</th>
            {SHOWN_KMH.map((kmh) => (
              <td key={kmh} className="figure">
                {hertzAt(perKm, kmh).toFixed(0)} Hz
              </td>
            ))}
          </tr>
        </tbody>
      </Table>
      {moved !== null && (
        <Moved data-same={Math.abs(moved - 1) <= SPEED_TOLERANCE}>
          <strong>{moved.toFixed(2)} times</strong>
          <span>
            as many pulses as before it moved. A gauge left on its wire then shows{' '}
            {readQuantity('road-speed', TRIED_KMH * moved, build)} at {readQuantity('road-speed', TRIED_KMH, build)}.
          </span>
        </Moved>
      )}
    </Stack>
  );
}

/** From the speed sensor to the road, and to every gauge. */
export function RoadSpeed() {
  const { build, edit } = useBuild();
  const { speed } = build;
  const set = (next: SpeedChain | null) => edit(call('setSpeed', { speed: next }));
  const sensor = build.devices.find(({ kindId }) => build.kinds[kindId] && hasRole(build.kinds[kindId], 'speed'));
  return (
    <SheetFrame
      summary={
        speed ? (
          <>
            {pulsesPerKm(speed, speed.tyre).toFixed(0)} pulses a km, {plural(speed.gauges.length, 'gauge')}.
            <br />
            <Soft>{sensor ? `Counted from ${sensor.label}.` : 'No speed sensor is on the list of devices.'}</Soft>
          </>
        ) : (
          <Soft>How the speed sensor is geared has not been told.</Soft>
        )
      }
    >
      {speed === null ? (
        <Stack $gap={3}>
          <p>
            Pulses a kilometre follow from the teeth the sensor counts, the gears between it and the wheel, and the
            tyre. Tell them once: the ECU’s setting, each gauge’s pulses and what a moved sensor does follow.
          </p>
          <Row>
            <Button weight="act" onPress={() => set(usualChain)}>
              Tell the gears and the tyre
            </Button>
          </Row>
        </Stack>
      ) : (
        <TwoColumns>
          <Stack $gap={5}>
            <Reads title="Where the sensor reads" sensed={speed} onChange={(sensed) => set({ ...speed, ...sensed })} />
            <TyreForm tyre={speed.tyre} onChange={(tyre) => set({ ...speed, tyre })} />
            <Stack $gap={2}>
              <Checkbox
                isSelected={speed.before !== null}
                onChange={(isOn) =>
                  set({
                    ...speed,
                    before: isOn ? { pulsesPerTurn: speed.pulsesPerTurn, gears: speed.gears } : null,
                  })
                }
              >
                It has moved to another shaft or gearbox
              </Checkbox>
              {speed.before && (
                <Reads
                  title="Where it read before"
                  sensed={speed.before}
                  onChange={(before) => set({ ...speed, before })}
                />
              )}
            </Stack>
          </Stack>
          <Stack $gap={5}>
            <Told chain={speed} />
            <Gauges chain={speed} onChange={set} />
            <OnScreen>
              <Button weight="quiet" onPress={() => set(null)}>
                Forget the gears and the tyre
              </Button>
            </OnScreen>
          </Stack>
        </TwoColumns>
      )}
    </SheetFrame>
  );
}

const Big = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 0 ${space[5]};
  font-size: ${type.title};
  font-weight: 700;
`;
const Moved = styled.p`
  display: grid;
  gap: 2px;
  padding: ${space[2]} ${space[3]};
  border-left: 3px solid ${color.pencil};
  border-radius: ${shape.radius};
  background: ${color.sheet};
  &[data-same='true'] {
    border-color: ${color.proved};
  }
`;
