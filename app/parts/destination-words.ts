import { sparkChannel, sparkLine } from '~/core/devices/spark-line';
import type { Destination } from '~/core/devices/kind';
import { askWords } from '~/core/ecu/ask';

const feedWords = {
  main: 'main feed',
  coils: 'coil feed',
  injectors: 'injector feed',
  pump: 'pump feed',
  own: 'own relay',
  key: 'key feed',
  permanent: 'permanent feed',
} as const;
const placeWords = { battery: 'battery negative', head: 'engine block', chassis: 'chassis' } as const;

/** The line of an igniter's channel by its number; others are named as they read. */
export function lineWords(line: string): string {
  const channel = sparkChannel(line);
  return channel === null ? `${line.replace(/-/g, ' ')} line` : `igniter channel ${channel}`;
}

export function destinationWords(destination: Destination): string {
  switch (destination.to) {
    case 'pin':
      return askWords(destination.ask);
    case 'supply-5v':
      return `5 V supply ${'abcd'[destination.bank]}`;
    case 'sensor-ground':
      return `sensor ground ${'abcd'[destination.bank]}`;
    case 'feed':
      return feedWords[destination.feed];
    case 'ground':
      return placeWords[destination.place];
    case 'mounted':
      return `its body, on the ${placeWords[destination.place]}`;
    case 'line':
      return lineWords(destination.line);
    case 'source':
      return destination.source === 'key-run' ? 'brings the key feed' : 'brings the start signal';
    case 'nothing':
      return 'left bare';
  }
}

/** Other places the same terminal may go, for the person to choose. */
export function alternatives(own: Destination): { id: string; name: string; destination: Destination | null }[] {
  const first = { id: 'own', name: `as the part asks: ${destinationWords(own)}`, destination: null };
  const grounds: Destination[] = [
    { to: 'ground', place: 'head' },
    { to: 'ground', place: 'chassis' },
    { to: 'ground', place: 'battery' },
    { to: 'sensor-ground', bank: 0 },
    { to: 'sensor-ground', bank: 1 },
  ];
  const options = (list: Destination[]) =>
    list.map((destination) => ({ id: JSON.stringify(destination), name: destinationWords(destination), destination }));
  switch (own.to) {
    case 'ground':
    case 'mounted':
    case 'sensor-ground':
      return [first, ...options(grounds)];
    case 'supply-5v':
      return [first, ...options([0, 1].map((bank) => ({ to: 'supply-5v', milliamps: own.milliamps, bank })))];
    case 'feed':
      return [
        first,
        ...options([{ to: 'line', line: 'charge-lamp' }]),
        ...options(
          (['main', 'key', 'permanent', 'own'] as const).map((feed) => ({ to: 'feed', feed, amps: own.amps })),
        ),
      ];
    case 'pin':
      return own.ask.kind === 'ignition-driver'
        ? [
            first,
            ...options(Array.from({ length: 8 }, (_, i): Destination => ({ to: 'line', line: sparkLine(i + 1) }))),
            ...options([{ to: 'nothing' }]),
          ]
        : [first, ...options([{ to: 'nothing' }])];
    case 'line':
      return [first, ...options([{ to: 'pin', ask: { kind: 'switch' } }, { to: 'nothing' }])];
    case 'source':
    case 'nothing':
      return [first, ...options([{ to: 'nothing' }])];
  }
}
