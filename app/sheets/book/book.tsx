import { labelOf } from '~/core/netlist/label';
import { ecuEnd } from '~/core/ends/ends';
import { memo, useMemo, useState, type ReactNode } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { differenceInWords, loomOf, nextLetter } from '~/core/netlist/revisions';
import { cutListCsv, pinListCsv } from '~/core/formats/lists';
import type { Pin } from '~/core/ecu/ecu';
import { camWheelOf } from '~/core/wheels/wheel';
import { plural } from '~/core/units/format';
import { offsetWords } from '~/core/trigger/offset-words';
import { offsetConfirmed } from '~/core/prove/evidence';
import { useBuild, useLater } from '../../build/context';
import { ShortName } from '../../parts/short-name';
import { SheetFrame } from '../../parts/sheet-frame';
import { WireMark } from '../../parts/wire-mark';
import { exportBuild } from '../../storage/export';
import { download, fileName } from '../../storage/files';
import { Button } from '../../ui/button';
import { Chunks } from '../../ui/chunks';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { Heading, Row, ScreenOnly, Small, Soft, Stack } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { at, space } from '../../ui/theme';
import { Calibrations, TimeAndCost } from './found';
import { shortSize } from '~/core/wire/size';

// The book is read, not worked in: what follows from an edit stands in it once the edit itself is painted.
const when = (iso: string) =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
const NOW = 'now';
const said = (revision: string) => (revision === NOW ? 'now' : revision);

function Revisions() {
  const { build, edit } = useBuild();
  const { build: told, net } = useLater();
  const [note, setNote] = useState('');
  const last = build.revisions[build.revisions.length - 1];
  const [from, setFrom] = useState<string>(last?.letter ?? NOW);
  const [to, setTo] = useState<string>(NOW);
  const choices = [
    ...build.revisions.map((revision) => ({
      id: revision.letter,
      name: `Revision ${revision.letter}`,
      note: `${when(revision.at)} ${revision.note}`,
    })),
    { id: NOW, name: 'As it stands' },
  ];
  const lines = useMemo(() => {
    const plan = (id: string) => told.revisions.find((revision) => revision.letter === id)?.plan ?? told;
    return differenceInWords(told, plan(from), plan(to), (one) => (one === told ? net : loomOf(told, one)));
  }, [told, net, from, to]);
  return (
    <Stack $gap={3}>
      <Heading>Revisions</Heading>
      <ScreenOnly>
        <Row $gap={3} style={{ alignItems: 'end' }}>
          <div style={{ flex: '1 1 220px' }}>
            <TextField
              label={`What revision ${nextLetter(build)} is for`}
              value={note}
              onChange={setNote}
              maxLength={300}
            />
          </div>
          <Button
            weight="act"
            onPress={() => {
              edit(call('saveRevision', { note, at: new Date().toISOString() }));
              setNote('');
            }}
          >
            Save revision {nextLetter(build)}
          </Button>
        </Row>
      </ScreenOnly>
      {build.revisions.length === 0 && (
        <Small>A revision keeps the plan as it is now, so that a later change can be read in words and printed.</Small>
      )}
      <ul>
        {[...build.revisions].reverse().map((revision) => (
          <li key={revision.letter}>
            <strong>{revision.letter}</strong> {revision.note || 'no note'} <Soft>{when(revision.at)}</Soft>
          </li>
        ))}
      </ul>
      {build.revisions.length > 0 && (
        <>
          <Heading>
            What changed, {said(from)} to {said(to)}
          </Heading>
          <ScreenOnly>
            <Row $gap={3}>
              <Select label="from" choices={choices} value={from} onChange={setFrom} />
              <Select label="to" choices={choices} value={to} onChange={setTo} />
            </Row>
          </ScreenOnly>
          {lines.length === 0 ? (
            <Small>Nothing.</Small>
          ) : (
            <Lines>
              {lines.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </Lines>
          )}
        </>
      )}
    </Stack>
  );
}

function SetUp() {
  const { build, progress, counts } = useLater();
  const { trigger, engine, ecu } = build;
  const rows: [string, ReactNode][] = [
    [
      'Engine',
      <>
        {engine.name}, fires <Whole>{engine.firingOrder.join('-')}</Whole>
      </>,
    ],
    ['ECU', `${ecu.model}, outputs ${build.outputOrder === 'in-turn' ? 'fire in turn' : 'numbered by cylinder'}`],
    ['Crank wheel', trigger.crankWheel?.name ?? 'not chosen'],
    ['Cam wheel', camWheelOf(trigger)?.name ?? 'none'],
    [
      'Offset, after the gap before TDC',
      `${offsetWords(build)} ${offsetConfirmed(build) ? 'confirmed by light' : 'not confirmed'}`,
    ],
    ['Timing lock', `${trigger.lockDegrees}°`],
    ['Dwell', `${trigger.dwellMilliseconds} ms`],
    ['ECU power ground', build.power.ecuGround === 'head' ? 'engine block' : 'battery negative'],
    ['Proof', `${progress.proved.size} of ${plural(progress.wires, 'wire')}`],
    [
      'Open findings',
      `${counts.stop} stop, ${counts.fix} to fix, ${counts.note} notes${counts.aside > 0 ? `, ${counts.aside} set aside` : ''}`,
    ],
  ];
  return (
    <Stack $gap={2}>
      <Heading>Set-up sheet</Heading>
      <Table>
        <tbody>
          {rows.map(([name, value]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>{value}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Stack>
  );
}

const doneSigns = { 'no wire': '', 'reads wrong': '✗', proved: '✓', 'not proved': '☐' } as const;

const Said = ({ rule, severity, title, detail }: { rule: string; severity: string; title: string; detail: string }) => (
  <>
    <strong>
      {rule} {severity}
    </strong>{' '}
    {title}. <Soft>{detail}</Soft>
  </>
);

/** Every finding as the next reader must know it: what stands, and what was left by whom and why. */
function Findings() {
  const { findings } = useLater();
  const standing = findings.filter((one) => one.aside === null && one.severity !== 'note');
  const aside = findings.filter((one) => one.aside !== null);
  return (
    <Stack $gap={2}>
      <Heading>Findings</Heading>
      {standing.length === 0 && <Small>Nothing is to be mended.</Small>}
      <Lines>
        {standing.map((one) => (
          <li key={one.id}>
            <Said {...one} />
          </li>
        ))}
      </Lines>
      {aside.length > 0 && (
        <>
          <Heading>Set aside</Heading>
          <Lines>
            {aside.map((one) => (
              <li key={one.id}>
                <Said {...one} />
                <br />
                {one.aside!.by}, {when(one.aside!.at)}: {one.aside!.reason}
              </li>
            ))}
          </Lines>
        </>
      )}
    </Stack>
  );
}

/** A line of the pin list; of what an edit leaves alone nothing is drawn again. */
const PinRow = memo(function PinRow({
  pin,
  serves,
  colour,
  size,
  done,
}: {
  pin: Pin;
  serves: string;
  /** Of its wire; none where the cavity is free. */
  colour: string | undefined;
  size: string | undefined;
  done: keyof typeof doneSigns;
}) {
  return (
    <tr>
      <th scope="row" data-inline>
        {pin.id}
      </th>
      <td className="name" title={pin.label}>
        {pin.label}
      </td>
      <td className="name">
        <ShortName label={serves} />
      </td>
      <td>
        {colour !== undefined && size !== undefined ? <WireMark colour={colour} size={size} /> : <Soft>free</Soft>}
      </td>
      <td aria-label={done}>{doneSigns[done]}</td>
    </tr>
  );
});

function PinList() {
  const { build, net, progress } = useLater();
  const doneWords = (wireId: string | undefined) =>
    wireId === undefined
      ? 'no wire'
      : progress.wrongWires.has(wireId)
        ? 'reads wrong'
        : progress.proved.has(wireId)
          ? 'proved'
          : 'not proved';
  return (
    <Stack $gap={2}>
      <Heading>Pin list</Heading>
      <TableScroll aria-label="Pin list">
        <Table data-dense="true" data-stacked="true">
          <thead>
            <tr>
              <th scope="col">cavity</th>
              <th scope="col">ECU function</th>
              <th scope="col">serves</th>
              <th scope="col">wire</th>
              <th scope="col">done</th>
            </tr>
          </thead>
          <Chunks items={net.cavities} rowPixels={29} columns={5} as="tbody">
            {({ pin, label }) => {
              const wire = net.wiresAt.get(ecuEnd(pin.id))?.[0];
              const far = wire ? labelOf(net, wire.from === ecuEnd(pin.id) ? wire.to : wire.from) : '';
              return (
                <PinRow
                  key={pin.id}
                  pin={pin}
                  serves={label || far}
                  colour={wire?.colour}
                  size={wire && shortSize(wire.squareMm, build)}
                  done={doneWords(wire?.id)}
                />
              );
            }}
          </Chunks>
        </Table>
      </TableScroll>
    </Stack>
  );
}

export function Book() {
  const { build, derived } = useBuild();
  const [told, setTold] = useState('');
  const save = (what: string, text: string) => download(fileName(`${build.name} ${what}`, 'csv'), 'text/csv', text);
  return (
    <SheetFrame
      summary={
        <>
          {plural(build.revisions.length, 'revision')}.
          <br />
          <Soft>Everything here leaves only as files you save.</Soft>
        </>
      }
      actions={<Button onPress={() => window.print()}>Print this sheet</Button>}
    >
      <Columns>
        <Stack $gap={5}>
          <Revisions key={build.revisions.length} />
          <TimeAndCost />
          <ScreenOnly>
            <Stack $gap={3}>
              <Heading>Files</Heading>
              <Row $gap={3}>
                <Button onPress={() => void exportBuild(build).then((said) => setTold(said ?? ''))}>
                  {build.survey.photos.length === 0
                    ? 'Build as JSON'
                    : `Build with ${plural(build.survey.photos.length, 'photograph')}`}
                </Button>
                <Button onPress={() => save('pin list', pinListCsv(build, derived.net))}>Pin list as CSV</Button>
                <Button onPress={() => save('cut list', cutListCsv(build, derived.net))}>Cut list as CSV</Button>
              </Row>
              <div role="status">{told && <Small>{told}</Small>}</div>
              <Small>Each sheet prints without its tools: Ctrl P on any of them.</Small>
            </Stack>
          </ScreenOnly>
        </Stack>
        <Stack $gap={5}>
          <SetUp />
          <Findings />
          <Calibrations />
          <PinList />
        </Stack>
      </Columns>
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: ${space[5]};
  ${at.tablet} {
    grid-template-columns: 1fr;
  }
  ${at.print} {
    grid-template-columns: 1fr;
  }
`;
/** A firing order is read as one. */
const Whole = styled.span`
  white-space: nowrap;
`;
const Lines = styled.ul`
  padding-left: ${space[4]};
  list-style: square;
  li {
    padding: 1px 0;
  }
`;
