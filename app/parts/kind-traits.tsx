import { trait, type DeviceKind, type Trait } from '~/core/devices/kind';
import { Button } from '../ui/button';
import { Select } from '../ui/select';
import { FieldGrid, Heading, Row, Small, Stack } from '../ui/text';

type Role = Extract<Trait, { type: 'role' }>['role'];
const roles: Record<Role, string> = {
  pump: 'fuel pump',
  fan: 'fan',
  starter: 'starter',
  'start-button': 'start button',
  'clutch-switch': 'clutch switch',
  'neutral-switch': 'neutral switch',
  'brake-switch': 'brake switch',
  'kill-switch': 'kill switch',
  'stand-switch': 'side stand switch',
  'tilt-switch': 'tilt switch',
  'oil-switch': 'oil pressure switch',
  'reverse-switch': 'reverse switch',
  alternator: 'alternator',
  knock: 'knock sensor',
  pedal: 'pedal',
  throttle: 'throttle',
  'air-mass': 'air mass meter',
  'manifold-hose': "hose to the ECU's own manifold sensor",
  tachometer: 'tachometer',
  speedometer: 'speedometer',
  lamp: 'lamp',
  speed: 'speed sensor',
  'gauge-sender': 'gauge sender',
  thermocouple: 'thermocouple',
};

/** What a kind can be besides its terminals, with data to start from (invented, within the usual). */
const choices: { id: string; name: string; make: () => Trait }[] = [
  {
    id: 'injector',
    name: 'injector',
    make: () => ({ type: 'injector', ohms: 12, flowCcPerMinute: 440, atKpa: 300, dead: [] }),
  },
  ...[false, true].map((igniter) => ({
    id: igniter ? 'coil-igniter' : 'coil-bare',
    name: igniter ? 'coil with igniter' : 'coil without igniter',
    make: (): Trait => ({
      type: 'coil',
      igniter,
      primaryOhms: 0.6,
      inductanceMillihenry: 3,
      dwell: [{ volts: 13.5, milliseconds: 3 }],
      serves: 1,
    }),
  })),
  ...(['crank', 'cam'] as const).flatMap((shaft) =>
    (['vr', 'hall'] as const).map((sensor) => ({
      id: `${shaft}-${sensor}`,
      name: `${shaft} sensor, ${sensor === 'vr' ? 'VR' : 'square wave'}`,
      make: (): Trait => ({ type: 'trigger', shaft, sensor }),
    })),
  ),
  { id: 'can', name: 'device on CAN, 500 kbit/s', make: () => ({ type: 'can', kilobits: 500, terminated: false }) },
  ...(Object.keys(roles) as Role[]).map((role) => ({
    id: `role-${role}`,
    name: roles[role],
    make: (): Trait => ({ type: 'role', role }),
  })),
];

function nameOf(one: Trait): string | null {
  switch (one.type) {
    case 'role':
      return roles[one.role];
    case 'trigger':
      return `${one.shaft} sensor, ${one.sensor === 'vr' ? 'VR' : 'square wave'}`;
    case 'injector':
      return 'injector';
    case 'coil':
      return one.igniter ? 'coil with igniter' : 'coil without igniter';
    case 'can':
      return `device on CAN, ${one.kilobits} kbit/s`;
    default:
      return null;
  }
}

/** What the checks must know of a kind: that it is a pump, a coil, a gauge pressure. */
export function KindTraits({ kind, onChange }: { kind: DeviceKind; onChange: (traits: Trait[]) => void }) {
  const pressure = trait(kind, 'pressure');
  const measuresPressure = kind.traits.some((one) => one.type === 'sensor' && one.quantity === 'pressure');
  const setPressure = (part: Partial<NonNullable<typeof pressure>>) =>
    onChange([
      ...kind.traits.filter((one) => one.type !== 'pressure'),
      { type: 'pressure', measures: 'other', reference: 'absolute', ...pressure, ...part },
    ]);
  const named = kind.traits.flatMap((one) => {
    const name = nameOf(one);
    return name === null ? [] : [{ one, name }];
  });
  return (
    <Stack $gap={3}>
      <Heading>What the checks must know</Heading>
      {measuresPressure && (
        <FieldGrid $min={180}>
          <Select
            label="Pressure of"
            choices={[
              { id: 'manifold', name: 'the manifold' },
              { id: 'fuel', name: 'fuel' },
              { id: 'oil', name: 'oil' },
              { id: 'other', name: 'something else' },
            ]}
            value={pressure?.measures ?? null}
            onChange={(id) => setPressure({ measures: id as 'manifold' })}
          />
          <Select
            label="Counted from"
            choices={[
              { id: 'absolute', name: 'nothing: absolute' },
              { id: 'gauge', name: 'the air around: gauge' },
            ]}
            value={pressure?.reference ?? null}
            onChange={(id) => setPressure({ reference: id as 'gauge' })}
          />
        </FieldGrid>
      )}
      {named.length === 0 && <Small>Nothing yet: it is a device like any other.</Small>}
      {named.map(({ one, name }) => (
        <Row key={name}>
          <span>It is a part of this sort: {name}</span>
          <Button
            weight="quiet"
            aria-label={`remove: ${name}`}
            onPress={() => onChange(kind.traits.filter((other) => other !== one))}
          >
            remove
          </Button>
        </Row>
      ))}
      <div style={{ maxWidth: 320 }}>
        <Select
          label="It is also a"
          choices={choices.filter((choice) => !named.some(({ name }) => name === choice.name))}
          value={null}
          isDisabled={kind.traits.length >= 8}
          onChange={(id) => {
            const choice = choices.find((one) => one.id === id);
            if (choice) onChange([...kind.traits, choice.make()]);
          }}
        />
      </div>
    </Stack>
  );
}
