import { Check, Lock, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import type { GateCheck } from '~/core/fireup/checks';
import type { Gate } from '~/core/fireup/gates';
import { symptomOfCheck } from '~/core/trace/symptoms';
import { plural } from '~/core/units/format';
import { readerScale, toShown, type UnitScale } from '~/core/units/units';
import { useBuild, useLater } from '../../build/context';
import { InitialsField, useInitials } from '../../parts/initials';
import { OffsetPanel } from '../../parts/offset-panel';
import { ScaleField } from '../../parts/scale-field';
import { SheetFrame } from '../../parts/sheet-frame';
import { newId } from '../../storage/garage';
import { Button } from '../../ui/button';
import { useEdited } from '../../ui/edited';
import { Checkbox } from '../../ui/choice';
import { Callout, Small, Soft, Stack } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';

const round = (value: number, decimals: number) => Math.round(value * 10 ** decimals) / 10 ** decimals;
/** Volts are banded to the hundredth. */
const SHOWN_DECIMALS = 2;

const when = (iso: string) =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));

/** Opens the case of what a reading out of its band speaks of, or goes to the one that is open, on sheet 8. */
function useCaseFor(gateId: string, checkId: string): () => void {
  const { build, derived, edit, goTo } = useBuild();
  return () => {
    const symptomId = symptomOfCheck(derived.net, gateId, checkId);
    if (symptomId !== null && !build.cases.some((one) => one.closed === null && one.symptomId === symptomId))
      edit(call('openCase', { id: newId(), symptomId, at: new Date().toISOString() }));
    goTo('trace', symptomId === null ? '' : `?symptom=${encodeURIComponent(symptomId)}`);
  };
}

function CheckLine({ gate, check, by }: { gate: Gate; check: GateCheck; by: string }) {
  const { build, edit } = useBuild();
  // A pressure is read and typed as the person reads pressures; every other reading in its own unit.
  const scale: UnitScale =
    check.unit === 'kPa'
      ? readerScale('pressure', build)
      : { unit: check.unit, factor: 1, shift: 0, decimals: SHOWN_DECIMALS };
  const band = (inside: number | null, withUnit = true) =>
    inside === null ? '' : `${round(toShown(scale, inside), scale.decimals)}${withUnit ? ` ${scale.unit}` : ''}`;
  const [value, setValue] = useEdited<number | null>(check.confirmation?.value ?? null);
  const confirm = (confirmed: boolean, reading: number | null = null) =>
    edit(
      call('confirmCheck', {
        gateId: gate.id,
        checkId: check.id,
        confirmation: confirmed ? { at: new Date().toISOString(), by, value: reading } : null,
      }),
    );
  const shut = gate.status === 'shut';
  const outside = !check.met && !check.fallen && (check.confirmation?.value ?? null) !== null;
  const trace = useCaseFor(gate.id, check.id);
  const nobody = by.trim() === '';
  return (
    <Line data-met={check.met}>
      {check.kind === 'confirm' ? (
        <Checkbox isSelected={check.met} isDisabled={(shut || nobody) && !check.met} onChange={(on) => confirm(on)}>
          {check.text}
        </Checkbox>
      ) : check.kind === 'auto' ? (
        <Auto>
          <Mark data-met={check.met} aria-label={check.met ? 'met' : 'not met'}>
            {check.met && <Check size={14} strokeWidth={3} aria-hidden />}
          </Mark>
          <span>{check.text}</span>
        </Auto>
      ) : (
        <Reading>
          <Mark data-met={check.met} aria-label={check.met ? 'met' : 'not met'}>
            {check.met && <Check size={14} strokeWidth={3} aria-hidden />}
          </Mark>
          <span>
            {check.text}
            <br />
            <Soft>
              {check.low === check.high ? band(check.low) : `${band(check.low, false)} to ${band(check.high)}`}
            </Soft>
          </span>
          <ScaleField
            label={check.text}
            hideLabel
            scale={scale}
            value={value}
            isDisabled={shut || nobody}
            onChange={(next) => {
              setValue(next);
              if (next !== null) confirm(true, next);
            }}
          />
        </Reading>
      )}
      <Small>
        {check.confirmation && (
          <>
            {check.confirmation.by}, {when(check.confirmation.at)}.{' '}
          </>
        )}
        {check.fallen && (
          <strong style={{ color: color.pencil }}>
            Taken before its wire, part or wheel changed: it does not count. Do it again.{' '}
          </strong>
        )}
        {outside && <strong style={{ color: color.stop }}>Out of its band. </strong>}
        {!check.met && check.hint}
        {outside && (
          <>
            {' '}
            <Button weight="quiet" onPress={trace}>
              Open a case on sheet 8
            </Button>
          </>
        )}
      </Small>
    </Line>
  );
}

function GateBody({ gate, by, onBy }: { gate: Gate; by: string; onBy: (by: string) => void }) {
  const { build } = useBuild();
  return (
    <Stack $gap={4}>
      <div>
        <Name>{gate.title}</Name>
        <Soft>{gate.aim}</Soft>
      </div>
      {gate.cautions.length > 0 && (
        <Callout $tone="stop">
          {gate.cautions.map((caution) => (
            <Caution key={caution}>
              <TriangleAlert size={16} aria-hidden /> {caution}
            </Caution>
          ))}
        </Callout>
      )}
      {gate.blockers.length > 0 && (
        <Callout $tone="fix">
          <strong>This gate is shut: {gate.blockers.join(', ')}.</strong>
          <Small>
            <Link to={`/build/${build.id}/prove`}>Test wires on sheet 6</Link>; stop findings stand in the rail beside
            it.
          </Small>
        </Callout>
      )}
      <div style={{ maxWidth: 260 }}>
        <InitialsField label="Who confirms" by={by} onBy={onBy} asked />
      </div>
      <Stack as="ul" $gap={3}>
        {gate.checks.map((check) => (
          <CheckLine key={check.id} gate={gate} check={check} by={by} />
        ))}
      </Stack>
      {gate.checks.length === 0 && <Small>Nothing of this kind is in the plan, so there is nothing to check.</Small>}
      {gate.id === 'timing' && (
        <div style={{ maxWidth: 380 }}>
          <OffsetPanel />
        </div>
      )}
    </Stack>
  );
}

export function FireUp() {
  // The gates hang on all that is found and proved: they follow an edit once it is painted.
  const { gates } = useLater();
  const passed = gates.filter((gate) => gate.status === 'passed').length;
  const current = gates.find((gate) => gate.status !== 'passed') ?? gates[gates.length - 1];
  const [chosen, setChosen] = useState<string | null>(null);
  const [by, setBy] = useInitials();
  const gate = gates.find((one) => one.id === chosen) ?? current;
  return (
    <SheetFrame
      summary={
        <span role="status">
          {passed} of {plural(gates.length, 'gate')} passed.
          <br />
          <Soft>
            {passed === gates.length
              ? 'It runs, and it is on record.'
              : `Next: ${current.title.toLowerCase()}${current.blockers.length > 0 ? `, shut: ${current.blockers[0]}` : ''}.`}
          </Soft>
        </span>
      }
    >
      <Columns>
        <Ladder aria-label="Gates">
          {gates.map((one, index) => (
            <li key={one.id}>
              <Rung
                aria-current={one.id === gate.id ? 'step' : undefined}
                data-status={one.status}
                onClick={() => setChosen(one.id)}
              >
                <Number>
                  {one.status === 'passed' ? (
                    <Check size={18} strokeWidth={3} aria-hidden />
                  ) : one.status === 'shut' ? (
                    <Lock size={15} aria-hidden />
                  ) : (
                    index + 1
                  )}
                </Number>
                <span>
                  <strong>{one.title}</strong>
                  <br />
                  <Small>
                    {one.status === 'passed'
                      ? 'passed'
                      : `${one.checks.filter((check) => check.met).length} of ${one.checks.length}, ${one.status}`}
                  </Small>
                </span>
              </Rung>
            </li>
          ))}
        </Ladder>
        <GateBody key={gate.id} gate={gate} by={by} onBy={setBy} />
      </Columns>
      <PrintAll>
        {gates.map((one) => (
          <section key={one.id}>
            <h3>{one.title}</h3>
            <ul>
              {one.checks.map((check) => (
                <li key={check.id}>
                  {check.met ? '☑' : '☐'} {check.text}
                  {check.low !== null && ` (${check.low} to ${check.high} ${check.unit})`}{' '}
                  {check.confirmation &&
                    `${check.confirmation.by}, ${when(check.confirmation.at)}${check.confirmation.value !== null ? `, ${check.confirmation.value} ${check.unit}` : ''}`}
                </li>
              ))}
            </ul>
          </section>
        ))}
      </PrintAll>
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: 220px minmax(0, 1fr);
  gap: ${space[5]};
  ${at.narrow} {
    grid-template-columns: 1fr;
  }
  ${at.print} {
    display: none;
  }
`;
const Ladder = styled.ol`
  position: relative;
  display: grid;
  align-self: start;
  align-content: start;
  gap: 2px;
  &::before {
    content: '';
    position: absolute;
    left: 24px;
    top: 24px;
    bottom: 24px;
    width: 3px;
    background: ${color.rule};
  }
`;
const Number = styled.span`
  position: relative;
  display: grid;
  place-items: center;
  width: 34px;
  height: 34px;
  border: 2px solid ${color.ink};
  border-radius: 8px;
  background: ${color.sheet};
  font-weight: 700;
`;
const Rung = styled.button`
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr);
  gap: ${space[3]};
  align-items: center;
  width: 100%;
  padding: ${space[2]};
  border: 0;
  border-radius: ${shape.radius};
  background: none;
  text-align: left;
  line-height: 1.25;
  cursor: pointer;
  &[aria-current='step'] {
    background: ${color.selectionWash};
  }
  &[data-status='passed'] ${Number} {
    background: ${color.proved};
    border-color: ${color.proved};
    color: ${color.onInk};
  }
  &[data-status='open'] ${Number} {
    border-color: ${color.pencil};
    color: ${color.pencil};
  }
  &[data-status='shut'] ${Number} {
    color: ${color.soft};
    border-color: ${color.soft};
  }
`;
const Name = styled.h2`
  font-size: ${type.title};
`;
const Caution = styled.p`
  display: grid;
  grid-template-columns: 18px 1fr;
  gap: ${space[2]};
  svg {
    color: ${color.stop};
    margin-top: 3px;
  }
`;
const Line = styled.li`
  display: grid;
  gap: 1px;
  padding-bottom: ${space[2]};
  border-bottom: ${shape.hair} solid ${color.rule};
  & > span:last-child {
    padding-left: 28px;
  }
`;
const Auto = styled.div`
  display: grid;
  grid-template-columns: 20px 1fr;
  gap: ${space[2]};
`;
const Mark = styled.span.attrs({ role: 'img' })`
  width: 20px;
  height: 20px;
  margin-top: 1px;
  border: ${shape.line} dashed ${color.soft};
  border-radius: 4px;
  display: grid;
  place-items: center;
  &[data-met='true'] {
    border: ${shape.line} solid ${color.proved};
    color: ${color.proved};
  }
`;
const Reading = styled.div`
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) 150px;
  gap: ${space[2]};
  align-items: start;
`;
const PrintAll = styled.div`
  display: none;
  ${at.print} {
    display: block;
    h3 {
      font-weight: 700;
      margin-top: ${space[3]};
    }
    li {
      break-inside: avoid;
    }
  }
`;
