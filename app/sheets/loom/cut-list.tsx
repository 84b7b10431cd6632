import { CheckCheck } from 'lucide-react';
import { Fragment, memo, useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { cutListCsv } from '~/core/formats/lists';
import { leadsOf } from '~/core/loom/leads';
import { cutList, cutTotals, type CutLine } from '~/core/loom/loom';
import { reusedWords, type Reused } from '~/core/loom/reuse';
import { subLooms } from '~/core/loom/sub-looms';
import type { Selection } from '~/core/netlist/run';
import { plural } from '~/core/units/format';
import { readLength, readSpool } from '~/core/units/workshop';
import { readSize } from '~/core/wire/size';
import { useBuild, useLater } from '../../build/context';
import { FindingMark } from '../../parts/findings/finding-mark';
import { SheetFrame } from '../../parts/sheet-frame';
import { ShortName } from '../../parts/short-name';
import { WireMark } from '../../parts/wire-mark';
import { download, fileName } from '../../storage/files';
import { Button } from '../../ui/button';
import { Chunks } from '../../ui/chunks';
import { Select } from '../../ui/select';
import { Callout, Heading, ScreenOnly, Small, Soft, Stack, VisuallyHidden } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { at, color, space } from '../../ui/theme';
import { Choices } from './choices';
import { WireChoice } from './wire-choice';

/** One wire of the cut list; its figures come one by one, so that it is drawn again only for another figure. */
const CutRow = memo(function CutRow({
  number,
  wireId,
  from,
  to,
  size,
  colour,
  length,
  reused,
  proved,
  chosen,
  onChoose,
}: Pick<CutLine, 'wireId' | 'from' | 'to' | 'colour'> & {
  number: number;
  /** The donor's wire that it is, in words; '' where it is new. */
  reused: string;
  proved: boolean;
  /** Size and length in the person's units. */
  size: string;
  length: string;
  chosen: boolean;
  onChoose: (selection: Selection) => void;
}) {
  return (
    <tr data-pressable="true" data-selected={chosen} onClick={() => onChoose({ type: 'wire', wireId })}>
      <td className="figure">
        <Pick
          aria-label={`Wire ${number}: ${from} to ${to}`}
          aria-pressed={chosen}
          onClick={() => onChoose({ type: 'wire', wireId })}
        >
          {number}
        </Pick>
      </td>
      <td className="name">
        <ShortName label={from} />
      </td>
      <td className="name">
        <ShortName label={to} /> <FindingMark thing={{ type: 'wire', wireId }} />
        {reused !== '' && (
          <Donor>
            <Small>donor’s {reused}</Small>
          </Donor>
        )}
      </td>
      <td className="figure" data-label="size">
        {size}
      </td>
      <td>
        <WireMark colour={colour} />
      </td>
      <td className="figure">{length}</td>
      <td>
        {proved && (
          <>
            <CheckCheck size={14} aria-hidden color={color.proved} />
            <VisuallyHidden>proved</VisuallyHidden>
          </>
        )}
      </td>
    </tr>
  );
});

const fateWords = { park: 'park it, or pull it out', cut: 'cut off', short: 'short by' } as const;

/** Leads that came with the ECU, each against its route. */
function Leads() {
  const { build, derived } = useBuild();
  const leads = useMemo(() => leadsOf(build, derived.net), [build, derived.net]);
  if (leads === null || leads.length === 0) return null;
  const jumpers = leads.reduce((sum, one) => sum + one.jumpers, 0);
  return (
    <Stack $gap={2}>
      <Heading>Leads that came with the ECU</Heading>
      <Small>{plural(jumpers, 'jumper')} can be cut of what is left over.</Small>
      <TableScroll aria-label="Leads that came with the ECU">
        <Table data-dense="true" data-stacked="true">
          <thead>
            <tr>
              <th scope="col">lead</th>
              <th scope="col">to</th>
              <th scope="col" className="figure">
                needed
              </th>
              <th scope="col">what becomes of it</th>
            </tr>
          </thead>
          <tbody>
            {leads.map((lead) => (
              <tr key={lead.pinId}>
                <th scope="row">
                  {lead.pinId} <WireMark colour={lead.colour} />
                </th>
                <td data-label="to">{lead.to || '–'}</td>
                <td className="figure" data-label="needed">
                  {lead.neededMetres === null ? '–' : readLength(lead.neededMetres, build)}
                </td>
                <td data-label="what becomes of it">
                  {fateWords[lead.fate]}
                  {lead.fate === 'park' ? '' : ` ${readLength(lead.metres, build)}`}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </TableScroll>
    </Stack>
  );
}

/** Donor wires that the plan has in another colour or size than they are. */
function Otherwise({ reuses }: { reuses: readonly Reused[] }) {
  const { build, edit } = useBuild();
  const others = reuses.filter(({ differs }) => differs);
  if (others.length === 0) return null;
  return (
    <Callout $tone="pencil">
      <span>
        {plural(others.length, 'donor wire goes', 'donor wires go')} on in another colour or size than the plan has:{' '}
        {others
          .slice(0, 3)
          .map(({ donor, colour, squareMm, wire }) =>
            [
              donor.moveTo,
              'is',
              colour ?? donor.colour,
              squareMm === null ? donor.size : readSize(squareMm, build),
              'for',
              wire.colour,
              readSize(wire.squareMm, build),
            ].join(' '),
          )
          .join('; ')}
        {others.length > 3 ? ' and more' : ''}.
      </span>
      <Button
        weight="quiet"
        onPress={() =>
          edit(
            ...others.map(({ wire, colour, squareMm }) =>
              call('setWire', {
                wireId: wire.cutOf ?? wire.id,
                ...(colour === null ? {} : { colour }),
                ...(squareMm === null ? {} : { squareMm }),
              }),
            ),
          )
        }
      >
        Plan them as they are
      </Button>
    </Callout>
  );
}

const ALL = 'all';
/** Every wire to cut, in the order of work. */
export function CutList() {
  const { build, derived, selection, select } = useBuild();
  const { progress } = useLater();
  const all = useMemo(() => cutList(build, derived.net), [build, derived.net]);
  const looms = useMemo(() => subLooms(build), [build]);
  const [of, setOf] = useState(ALL);
  const lines = useMemo(
    () => (of === ALL || !looms.some(({ name }) => name === of) ? all : all.filter(({ loom }) => loom === of)),
    [all, looms, of],
  );
  const totals = useMemo(() => cutTotals(lines), [lines]);
  const reuses = useMemo(() => all.flatMap(({ reused }) => reused ?? []), [all]);
  const metres = totals.reduce((sum, total) => sum + total.metres, 0);
  return (
    <SheetFrame
      summary={
        <>
          {plural(lines.length, 'wire')}, {readLength(metres, build)} to cut.
          <br />
          <Soft>Route, slack and both terminals are in each length.</Soft>
        </>
      }
      actions={
        <Button
          isDisabled={lines.length === 0}
          onPress={() =>
            download(fileName(`${build.name} cut list`, 'csv'), 'text/csv', cutListCsv(build, derived.net))
          }
        >
          Cut list as CSV
        </Button>
      }
    >
      <Columns>
        <Stack $gap={4}>
          {looms.length > 1 && (
            <Select
              label="Cut which loom"
              choices={[
                { id: ALL, name: 'All of it' },
                ...looms.map(({ name }) => ({
                  id: name,
                  name,
                  note: plural(all.filter(({ loom }) => loom === name).length, 'wire'),
                })),
              ]}
              value={of}
              onChange={setOf}
            />
          )}
          <Choices />
          <Stack $gap={2}>
            <Heading>Wire to buy</Heading>
            <Table>
              <tbody>
                {totals.map((total) => (
                  <tr key={`${total.squareMm} ${total.colour}`}>
                    <td className="figure">{readSize(total.squareMm, build)}</td>
                    <td>
                      <WireMark colour={total.colour} />
                    </td>
                    <td className="figure">{readSpool(total.metres, build)}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Stack>
        </Stack>
        <Stack $gap={2}>
          <Leads />
          <Heading>Cut list</Heading>
          <Otherwise reuses={reuses} />
          {lines.length === 0 ? (
            <p>
              No wire yet. <Soft>Place needs on sheet 2 and the list writes itself.</Soft>
            </p>
          ) : (
            <TableScroll aria-label="Cut list">
              <Table data-dense="true" data-stacked="true">
                <thead>
                  <tr>
                    <th scope="col">#</th>
                    <th scope="col">from</th>
                    <th scope="col">to</th>
                    <th scope="col" className="figure">
                      size
                    </th>
                    <th scope="col">colour</th>
                    <th scope="col" className="figure">
                      length
                    </th>
                    <th scope="col">
                      <VisuallyHidden>proved</VisuallyHidden>
                    </th>
                  </tr>
                </thead>
                <Chunks items={lines} rowPixels={29} columns={7} as="tbody">
                  {(line, index) => (
                    <Fragment key={line.wireId}>
                      <CutRow
                        number={index + 1}
                        wireId={line.wireId}
                        from={line.from}
                        to={line.to}
                        colour={line.colour}
                        size={readSize(line.squareMm, build)}
                        length={readLength(line.lengthMetres, build)}
                        reused={line.reused ? reusedWords(line.reused) : ''}
                        proved={progress.proved.has(line.wireId)}
                        chosen={selection?.type === 'wire' && selection.wireId === line.wireId}
                        onChoose={select}
                      />
                      {selection?.type === 'wire' && selection.wireId === line.wireId && (
                        <tr>
                          <td colSpan={7}>
                            <ScreenOnly>
                              <WireChoice wireId={line.wireId} />
                            </ScreenOnly>
                          </td>
                        </tr>
                      )}
                    </Fragment>
                  )}
                </Chunks>
              </Table>
            </TableScroll>
          )}
        </Stack>
      </Columns>
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: 290px minmax(0, 1fr);
  gap: ${space[5]};
  ${at.narrow} {
    grid-template-columns: 1fr;
  }
  ${at.print} {
    grid-template-columns: 1fr;
  }
`;
const Donor = styled.div`
  line-height: 1.2;
`;
const Pick = styled.button`
  border: 0;
  background: none;
  padding: 0;
  min-width: 24px;
  min-height: 24px;
  padding-inline: 0;
  color: ${color.soft};
  cursor: pointer;
`;
