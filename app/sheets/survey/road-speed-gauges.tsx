import { styled } from 'styled-components';
import {
  CABLE_PER_KM,
  MOST_GAUGES,
  SPEED_TOLERANCE,
  USUAL_GAUGE_PER_KM,
  gaugeReads,
  hertzAt,
  type SpeedChain,
  type SpeedGauge,
} from '~/core/speed/chain';
import { readQuantity } from '~/core/units/units';
import { readMeasure } from '~/core/units/workshop';
import { useBuild } from '../../build/context';
import { MeasureField } from '../../parts/scale-field';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { Heading, OnScreen, Row, Small, Stack } from '../../ui/text';
import { at, color, space } from '../../ui/theme';
import { NameField } from './name-field';

function freeGaugeId(gauges: readonly SpeedGauge[]): string {
  let number = 1;
  while (gauges.some(({ id }) => id === `gauge-${number}`)) number += 1;
  return `gauge-${number}`;
}

/** What each gauge wants, and what it gets. */
export function Gauges({ chain, onChange }: { chain: SpeedChain; onChange: (chain: SpeedChain) => void }) {
  const { build } = useBuild();
  const set = (id: string, gauge: SpeedGauge | null) =>
    onChange({
      ...chain,
      gauges: chain.gauges.flatMap((one) => (one.id === id ? (gauge ? [gauge] : []) : [one])),
    });
  return (
    <Stack $gap={2}>
      <Heading>What each gauge must get</Heading>
      {chain.gauges.map((gauge) => {
        const { given, factor } = gaugeReads(chain, gauge);
        const right = Math.abs(factor - 1) <= SPEED_TOLERANCE;
        return (
          <GaugeBox key={gauge.id}>
            <GaugeRow>
              <NameField
                label={`Name of ${gauge.name}`}
                name={gauge.name}
                onChange={(name) => set(gauge.id, { ...gauge, name })}
              />
              <MeasureField
                label={`${gauge.name} wants`}
                hideLabel
                measure="distance-pulses"
                units={build.units}
                value={gauge.pulsesPerKm}
                minValue={1}
                maxValue={1e6}
                onChange={(wanted) => wanted !== null && set(gauge.id, { ...gauge, pulsesPerKm: wanted })}
              />
              <OnScreen>
                <Button weight="quiet" aria-label={`Remove ${gauge.name}`} onPress={() => set(gauge.id, null)}>
                  Remove
                </Button>
              </OnScreen>
            </GaugeRow>
            <Row>
              <Segmented
                label={`${gauge.name} is fed by`}
                hideLabel
                choices={[
                  { id: 'ecu', name: 'the ECU' },
                  { id: 'sensor', name: 'the sensor' },
                ]}
                value={gauge.fedBy}
                onChange={(fedBy) => set(gauge.id, { ...gauge, fedBy })}
              />
              <Small>feeds it</Small>
            </Row>
            <Small>
              {gauge.fedBy === 'ecu'
                ? `Set the ECU’s output to ${readMeasure('distance-pulses', gauge.pulsesPerKm, build)}: ${hertzAt(gauge.pulsesPerKm, 100).toFixed(0)} Hz at ${readQuantity('road-speed', 100, build)}.`
                : right
                  ? `Gets ${readMeasure('distance-pulses', given, build)}: right.`
                  : `Gets ${readMeasure('distance-pulses', given, build)}, so it reads ${factor.toFixed(2)} times the speed.`}
            </Small>
          </GaugeBox>
        );
      })}
      {chain.gauges.length === 0 && (
        <Small>
          None yet. A speedometer’s own figure stands on its dial or in its manual, often as pulses or turns a mile; an
          old cable drive turns {readMeasure('distance-pulses', CABLE_PER_KM, build)} or so.
        </Small>
      )}
      <Row>
        <Button
          isDisabled={chain.gauges.length >= MOST_GAUGES}
          onPress={() =>
            onChange({
              ...chain,
              gauges: [
                ...chain.gauges,
                {
                  id: freeGaugeId(chain.gauges),
                  name: chain.gauges.length === 0 ? 'Speedometer' : `Gauge ${chain.gauges.length + 1}`,
                  pulsesPerKm: USUAL_GAUGE_PER_KM,
                  fedBy: 'ecu',
                },
              ],
            })
          }
        >
          Add a gauge
        </Button>
      </Row>
    </Stack>
  );
}

const GaugeBox = styled.div`
  display: grid;
  gap: ${space[1]};
  padding-bottom: ${space[2]};
  border-bottom: 1px solid ${color.rule};
`;
const GaugeRow = styled.div`
  display: grid;
  grid-template-columns: minmax(110px, 1fr) minmax(150px, 190px) auto;
  align-items: center;
  gap: ${space[2]};
  ${at.phone} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
`;
