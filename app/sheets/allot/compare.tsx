import { Fragment, useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { styled } from 'styled-components';
import type { EcuFit } from '~/core/ways/compare';
import { shortfallWords } from '~/core/allot/spares';
import type { Help } from '~/core/ways/ways';
import { call } from '~/core/edits';
import { kindWord } from '~/core/ecu/ask';
import type { AbilityKind } from '~/core/ecu/ecu';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Callout, Row, Small, Soft, VisuallyHidden } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { at, color, space } from '../../ui/theme';
import { SheetFrame } from '../../parts/sheet-frame';
import { useAllotTask } from '../../parts/use-allot';

const triggerWords: Record<EcuFit['trigger'], string> = {
  cycle: 'knows the cycle',
  angle: 'knows the turn only',
  nothing: 'does not decode it',
  'not chosen': 'no wheel chosen',
};

const spareList = (fit: EcuFit): string =>
  Object.entries(fit.spares)
    .map(([kind, count]) => plural(count!, kindWord(kind as AbilityKind)))
    .join(', ') || 'none';

/** The same needs on every ECU of the catalog and the person's library, side by side. */
export function Compare({ help }: { help: Help }) {
  const { build, edit } = useBuild();
  const [taking, setTaking] = useState<EcuFit | null>(null);
  const task = useAllotTask((api, onProgress) => api.compare(build, help.ecus, onProgress));
  const run = useRef(task.run);
  useEffect(() => {
    run.current = task.run;
  });
  useEffect(() => run.current(), [build]);
  const fits = task.answer ?? [];
  const able = fits.filter((fit) => fit.fits).length;
  const ecu = taking && help.ecus.find((one) => one.id === taking.ecuId);
  return (
    <SheetFrame
      summary={
        <span role="status">
          {task.busy
            ? `Trying every ECU, ${Math.round(task.progress * 100)} %.`
            : `${able} of ${plural(fits.length, 'ECU')} ${able === 1 ? 'serves' : 'serve'} all needs.`}
          <br />
          <Soft>The same needs, the solver's best plan on each.</Soft>
        </span>
      }
      actions={
        task.busy ? <Button onPress={task.cancel}>Cancel</Button> : <Link to="/library/ecus">Your own ECUs</Link>
      }
    >
      {task.failure && <Callout $tone="stop">The solver stopped: {task.failure}</Callout>}
      <TableScroll aria-label="ECUs compared">
        <Stacked>
          <thead>
            <tr>
              <th scope="col">ECU</th>
              <th scope="col">Fits</th>
              <th scope="col">Spare</th>
              <th scope="col">To move</th>
              <th scope="col">Trigger</th>
              <th scope="col">Outputs</th>
              <th scope="col">
                <VisuallyHidden>What to do</VisuallyHidden>
              </th>
            </tr>
          </thead>
          <tbody>
            {fits.map((fit) => (
              <Fragment key={fit.ecuId}>
                <tr data-selected={fit.own}>
                  <th scope="row" className="wire">
                    {fit.model}
                    <br />
                    <Small style={{ fontFamily: 'inherit', fontWeight: 400 }}>
                      {plural(fit.pins, 'cavity', 'cavities')}
                      {fit.own && (
                        <>
                          <br />
                          in this build
                        </>
                      )}
                    </Small>
                  </th>
                  <td data-label="Fits" style={{ whiteSpace: 'nowrap' }}>
                    {fit.fits ? (
                      <strong style={{ color: color.proved }}>✓ all {fit.needs}</strong>
                    ) : (
                      <strong style={{ color: color.stop }}>
                        ✗ {fit.served} of {fit.needs}
                      </strong>
                    )}
                  </td>
                  <td data-label="Spare">
                    {fit.spareCount} <br />
                    <Small>
                      {spareList(fit)}
                      {fit.reserve.length > 0 && `. Short of your wish: ${shortfallWords(fit.reserve)}`}
                    </Small>
                  </td>
                  <td data-label="To move">
                    {fit.moved === 0 ? 'nothing' : plural(fit.moved, 'pin')}
                    {fit.recrimped > 0 && (
                      <>
                        <br />
                        <Small> {fit.recrimped} crimped</Small>
                      </>
                    )}
                  </td>
                  <td data-label="Trigger">{triggerWords[fit.trigger]}</td>
                  <td data-label="Outputs">{fit.outputOrder === 'in-turn' ? 'fire in turn' : 'by cylinder'}</td>
                  <td className="figure">
                    {!fit.own && (
                      <Button weight="quiet" onPress={() => setTaking(fit)}>
                        Take it
                      </Button>
                    )}
                  </td>
                </tr>
                {fit.reasons.length > 0 && (
                  <tr>
                    <td colSpan={7}>
                      <ul>
                        {fit.reasons.slice(0, 5).map((reason) => (
                          <li key={reason}>
                            <Small>{reason}</Small>
                          </li>
                        ))}
                        {fit.reasons.length > 5 && (
                          <li>
                            <Small>And {fit.reasons.length - 5} more reasons.</Small>
                          </li>
                        )}
                      </ul>
                    </td>
                  </tr>
                )}
              </Fragment>
            ))}
          </tbody>
        </Stacked>
      </TableScroll>
      {taking && ecu && (
        <Dialog title={`Change to ${taking.model}?`} isOpen onClose={() => setTaking(null)}>
          <p>
            Every pin is placed anew by the plan just worked out; locks fall away, and each wire at the ECU gets another
            cavity. Readings of old wires no longer count. Undo brings all of it back.
          </p>
          <DialogActions>
            <Button onPress={() => setTaking(null)}>Leave it</Button>
            <Button
              weight="act"
              onPress={() => {
                edit(
                  call('chooseEcu', { ecu }),
                  call('placeAll', {
                    assignments: Object.fromEntries(taking.assignments.map(({ needId, pinId }) => [needId, pinId])),
                    shared: {},
                    label: `Change to ${taking.model}`.slice(0, 60),
                  }),
                );
                setTaking(null);
              }}
            >
              Change the ECU
            </Button>
          </DialogActions>
        </Dialog>
      )}
      <Foot>
        <Small>
          An ECU of your own joins the comparison when its definition is in your library: paste its pinout there.
        </Small>
      </Foot>
    </SheetFrame>
  );
}

/** On a phone each ECU is a block of its own, every figure with its heading before it. */
const Stacked = styled(Table)`
  ${at.narrow} {
    thead {
      display: none;
    }
    tbody,
    tr,
    th,
    td {
      display: block;
    }
    tr {
      padding: ${space[2]};
    }
    th,
    td {
      padding: 1px 0;
      border: 0;
      text-align: left;
    }
    td[data-label]::before {
      content: attr(data-label) ': ';
      color: ${color.soft};
    }
    td br {
      display: none;
    }
  }
`;
const Foot = styled(Row)`
  margin-top: ${space[3]};
`;
