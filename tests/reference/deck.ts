import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

/*
 * Networks drawn by hand, in words, for ngspice: nothing of core is used, neither its figures nor its writer. A place is named, `0`
 * is battery negative.
 */
export type Drawn =
  | readonly [from: string, to: string, ohms: number]
  | readonly [from: string, to: string, of: { readonly volts: number; readonly ohms: number }]
  | readonly [from: string, to: string, of: { readonly amps: number }]
  | readonly [from: string, to: string, of: { readonly henry: number; readonly ohms: number; readonly amps?: number }];

/** Volts of every place, by ngspice's operating point. */
export const spiceVolts = (drawn: readonly Drawn[]): ReadonlyMap<string, number> =>
  run(drawn, ['op'], (node) => `print v(${node})`, /^v\((\d+)\) = (\S+)/gm);

/** Mean volts of every place over so long from the moment it is switched on, each inductance with the amperes it has then. */
export const spiceMeans = (drawn: readonly Drawn[], seconds: number): ReadonlyMap<string, number> =>
  run(
    drawn,
    [`tran ${seconds / STEPS} ${seconds} 0 ${seconds / STEPS} uic`],
    (node) => `meas tran mean${node} avg v(${node}) from=0 to=${seconds}`,
    /^mean(\d+)\s*=\s*(\S+)/gm,
  );
/** Mean of the square, likewise: what warms. */
export const spiceSquares = (drawn: readonly Drawn[], seconds: number): ReadonlyMap<string, number> =>
  run(
    drawn,
    [`tran ${seconds / STEPS} ${seconds} 0 ${seconds / STEPS} uic`],
    (node) => `meas tran rms${node} rms v(${node}) from=0 to=${seconds}`,
    /^rms(\d+)\s*=\s*(\S+)/gm,
  );
const STEPS = 4000;

function run(
  drawn: readonly Drawn[],
  analysis: readonly string[],
  ask: (node: number) => string,
  told: RegExp,
): ReadonlyMap<string, number> {
  const numbers = new Map<string, number>([['0', 0]]);
  const node = (name: string) => {
    const known = numbers.get(name) ?? numbers.size;
    numbers.set(name, known);
    return known;
  };
  const lines = drawn.flatMap(([from, to, of], at): string[] => {
    const [a, b] = [node(from), node(to)];
    if (typeof of === 'number') return [`R${at} ${a} ${b} ${of}`];
    if ('henry' in of) {
      const within = node(`inside ${at}`);
      return [`R${at} ${a} ${within} ${of.ohms}`, `L${at} ${within} ${b} ${of.henry} ic=${of.amps ?? 0}`];
    }
    if ('amps' in of) return [`I${at} ${a} ${b} ${of.amps}`];
    const inner = node(`inside ${at}`);
    return [`V${at} ${inner} ${b} ${of.volts}`, `R${at} ${a} ${inner} ${of.ohms}`];
  });
  const names = [...numbers].filter(([, number]) => number > 0);
  const folder = mkdtempSync(path.join(tmpdir(), 'gonyx-deck-'));
  try {
    const file = path.join(folder, 'drawn.cir');
    const asks = names.map(([, number]) => ask(number));
    writeFileSync(
      file,
      ['* drawn by hand', ...lines, '.control', ...analysis, ...asks, 'quit', '.endc', '.end', ''].join('\n'),
    );
    const out = execFileSync('/usr/bin/ngspice', ['-b', file], { encoding: 'utf8', stdio: 'pipe' });
    const volts = new Map([...out.matchAll(told)].map((found) => [Number(found[1]), Number(found[2])]));
    return new Map(names.map(([name, number]) => [name, volts.get(number)!]));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
