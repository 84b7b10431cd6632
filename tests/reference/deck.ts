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
  | readonly [from: string, to: string, of: { readonly amps: number }];

/** Volts of every place, by ngspice's operating point. */
export function spiceVolts(drawn: readonly Drawn[]): ReadonlyMap<string, number> {
  const numbers = new Map<string, number>([['0', 0]]);
  const node = (name: string) => {
    const known = numbers.get(name) ?? numbers.size;
    numbers.set(name, known);
    return known;
  };
  const lines = drawn.flatMap(([from, to, of], at): string[] => {
    const [a, b] = [node(from), node(to)];
    if (typeof of === 'number') return [`R${at} ${a} ${b} ${of}`];
    if ('amps' in of) return [`I${at} ${a} ${b} ${of.amps}`];
    const inner = node(`inside ${at}`);
    return [`V${at} ${inner} ${b} ${of.volts}`, `R${at} ${a} ${inner} ${of.ohms}`];
  });
  const names = [...numbers].filter(([, number]) => number > 0);
  const folder = mkdtempSync(path.join(tmpdir(), 'gonyx-deck-'));
  try {
    const file = path.join(folder, 'drawn.cir');
    const prints = names.map(([, number]) => `print v(${number})`);
    writeFileSync(
      file,
      ['* drawn by hand', ...lines, '.control', 'op', ...prints, 'quit', '.endc', '.end', ''].join('\n'),
    );
    const out = execFileSync('/usr/bin/ngspice', ['-b', file], { encoding: 'utf8', stdio: 'pipe' });
    const volts = new Map(
      [...out.matchAll(/^v\((\d+)\) = (\S+)/gm)].map((found) => [Number(found[1]), Number(found[2])]),
    );
    return new Map(names.map(([name, number]) => [name, volts.get(number)!]));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
