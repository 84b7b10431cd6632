import { labelOf } from '~/core/netlist/label';
import { useMemo } from 'react';
import { inPlace } from '~/core/allot/in-place';
import { barredPins } from '~/core/allot/model';
import { kindWord } from '~/core/ecu/ask';
import { countingWords } from '~/core/ecu/face';
import { ecuEnd, endType } from '~/core/ends/ends';
import { shortLabel } from '~/core/netlist/short';
import { farOf } from '~/core/netlist/whole';
import type { FaceCavity } from './face-cavity';
import { markOf } from './marks';
import { useBuild, useLater } from '../build/context';

/** The cavities of every connector as they stand in the build, by connector. */
export function useFaceCavities(): ReadonlyMap<string, readonly FaceCavity[]> {
  const { build, derived } = useBuild();
  const { ecu } = build;
  /** What is said of each cavity whatever stands on it. */
  const fixed = useMemo(() => {
    const connectors = new Map(ecu.connectors.map((connector) => [connector.id, connector]));
    return new Map(
      ecu.pins.map((pin) => [
        pin.id,
        {
          free: `free, ${pin.label}: ${pin.abilities.map(({ kind }) => kindWord(kind)).join(' or ')}`,
          counting: countingWords(connectors.get(pin.connector)!, pin.cavity),
        },
      ]),
    );
  }, [ecu]);
  const { net } = derived;
  // What is proved follows a moment later: nobody waits for the tests to move a pin.
  const { proved, wrongWires } = useLater().progress;
  return useMemo(() => {
    const faces = new Map<string, FaceCavity[]>(build.ecu.connectors.map((connector) => [connector.id, []]));
    const locked = new Set(build.locked);
    const never = barredPins(build);
    for (const { pin, needId, label, signal } of net.cavities) {
      const wires = net.wiresAt.get(ecuEnd(pin.id)) ?? [];
      const [wire] = wires;
      const isFed = wire && !needId;
      const { free, counting } = fixed.get(pin.id)!;
      const far = wire ? farOf(net, wire, ecuEnd(pin.id)) : null;
      // A free cavity shows what it could be.
      const text = needId ? label : pin.label;
      const where = far && endType(far) !== 'splice' ? `, to ${labelOf(net, far)}` : '';
      const state =
        wires.length === 0
          ? 'empty'
          : wires.some((one) => wrongWires.has(one.id))
            ? 'wrong'
            : wires.every((one) => proved.has(one.id))
              ? 'proved'
              : wires.every((one) => inPlace(build, one.from, one.to))
                ? 'crimped'
                : 'wired';
      const barred = never(null, pin.id);
      const states = {
        empty: '',
        wrong: ', reads wrong',
        wired: '',
        crimped: ', clicked and pulled',
        proved: ', proved',
      };
      faces.get(pin.connector)!.push({
        cavity: pin.cavity,
        pinId: pin.id,
        text: shortLabel(text),
        spoken: `${pin.id}, ${needId || isFed ? text : free}${where}${states[state]}${barred ? ', kept empty' : ''}, ${counting}`,
        mark: markOf(build, signal),
        state,
        locked: needId !== null && locked.has(needId),
        movable: needId !== null && !locked.has(needId) ? needId : null,
        barred,
      });
    }
    return faces;
  }, [build, net, proved, wrongWires, fixed]);
}
