import { LEAK_SIEMENS, type Network } from '../circuit/network';

/** What would end a line or a comment of a deck. */
const plain = (text: string) => text.replace(/[\r\n]+/g, ' ');

/**
 * A solved circuit as SPICE text (the netlist of SPICE3, which its descendants read): a node for each end, named in a comment,
 * resistors, and sources behind theirs. Relays and diodes stand as they were found: open, closed, conducting. It asks for the
 * operating point and prints every node.
 */
export function spiceDeck(network: Network, title: string, reference: string): string {
  const names = network.names;
  const number = new Map(names.map((name, at) => [name, `n${at + 1}`]));
  const node = (name: string) => number.get(name) ?? '0';
  const lines = [
    plain(title),
    `* node 0: ${plain(reference)}`,
    ...names.map((name) => `* node ${node(name)}: ${plain(name)}`),
    ...network.elements.flatMap(({ plus, minus, ohms, volts }, at) =>
      volts === 0
        ? [`R${at + 1} ${node(plus)} ${node(minus)} ${ohms}`]
        : [`V${at + 1} s${at + 1} ${node(minus)} DC ${volts}`, `R${at + 1} s${at + 1} ${node(plus)} ${ohms}`],
    ),
    // Every node leaks a little, so that one that floats has its volts too.
    ...names.map((name, at) => `RL${at + 1} ${node(name)} 0 ${1 / LEAK_SIEMENS}`),
    '.options numdgt=9 gmin=1e-15',
    '.control',
    'op',
    ...names.map((name) => `print v(${node(name)})`),
    '.endc',
    '.end',
  ];
  return `${lines.join('\n')}\n`;
}
