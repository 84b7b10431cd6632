import { useMemo } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { labelsCsv, labelsText } from '~/core/formats/loom-lists';
import { USUAL_LABEL, labelFields, labelsOf, letterMillimetres, unknownFields, type Label } from '~/core/loom/labels';
import { plural } from '~/core/units/format';
import { readMeasure } from '~/core/units/workshop';
import { useBuild, useLater } from '../../build/context';
import { SheetFrame } from '../../parts/sheet-frame';
import { download, fileName } from '../../storage/files';
import { Button } from '../../ui/button';
import { Chunks } from '../../ui/chunks';
import { Heading, Row, ScreenOnly, Small, Soft, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { color, space } from '../../ui/theme';
import { Tags } from './tags';

/** Labels of one heat-shrink, as strips at their true size. */
function Strips({ shrink, labels }: { shrink: number; labels: readonly Label[] }) {
  const { build } = useBuild();
  return (
    <Stack $gap={2}>
      <Heading>
        Heat-shrink {readMeasure('thickness', shrink, build)}, {plural(labels.length, 'label')}
      </Heading>
      <Sheet>
        <Chunks items={labels} rowPixels={6} as="div">
          {(label, i) => (
            <Strip
              key={`${label.about} ${label.end} ${i}`}
              style={{
                width: `${label.lengthMillimetres}mm`,
                height: `${Math.max(label.flatMillimetres, 3)}mm`,
                fontSize: `${letterMillimetres(label.flatMillimetres)}mm`,
              }}
            >
              {label.text}
            </Strip>
          )}
        </Chunks>
      </Sheet>
    </Stack>
  );
}

/** Labels of both ends of every wire and of every plug, by the heat-shrink they are printed on. */
export function Labels() {
  const { build, edit } = useBuild();
  const later = useLater();
  const labels = useMemo(() => labelsOf(later.build, later.net), [later]);
  const bores = [...new Set(labels.map(({ shrinkMillimetres }) => shrinkMillimetres))].sort(
    (one, other) => one - other,
  );
  const unknown = unknownFields(build.loom.label);
  return (
    <SheetFrame
      summary={
        <>
          {plural(labels.length, 'label')} on {plural(bores.length, 'size')} of heat-shrink.
          <br />
          <Soft>One at either end of each wire.</Soft>
        </>
      }
      actions={
        <>
          <Button weight="act" onPress={() => window.print()}>
            Print
          </Button>
          <Button
            onPress={() =>
              download(fileName(`${build.name} labels`, 'csv'), 'text/csv', labelsCsv(later.build, later.net))
            }
          >
            CSV
          </Button>
          <Button
            onPress={() =>
              download(fileName(`${build.name} labels`, 'txt'), 'text/plain', labelsText(later.build, later.net))
            }
          >
            Plain text
          </Button>
        </>
      }
    >
      <Stack $gap={4}>
        <ScreenOnly>
          <Row $gap={4} style={{ alignItems: 'end' }}>
            <Wide>
              <TextField
                label="What stands on a label"
                value={build.loom.label}
                maxLength={120}
                error={
                  unknown.length > 0 ? `There is no field ${unknown.map((name) => `{${name}}`).join(', ')}.` : undefined
                }
                onChange={(label) => label.trim() !== '' && edit(call('setLoom', { label }))}
              />
            </Wide>
            <Button weight="quiet" onPress={() => edit(call('setLoom', { label: USUAL_LABEL }))}>
              As usual
            </Button>
          </Row>
          <Small>
            Fields: {labelFields.map((name) => `{${name}}`).join(' ')}. At either end {'{from}'} is where the label
            sits. Print at 100 %: strips are as wide as the tube laid flat.
          </Small>
        </ScreenOnly>
        <Tags />
        {bores.map((bore) => (
          <Strips
            key={bore}
            shrink={bore}
            labels={labels.filter(({ shrinkMillimetres }) => shrinkMillimetres === bore)}
          />
        ))}
      </Stack>
    </SheetFrame>
  );
}

const Wide = styled.div`
  flex: 1;
  min-width: 260px;
  max-width: 520px;
`;
const Sheet = styled.div`
  & > div {
    display: flex;
    flex-wrap: wrap;
    column-gap: ${space[2]};
  }
`;
const Strip = styled.span`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  overflow: hidden;
  white-space: nowrap;
  border: 0.2mm solid ${color.rule};
  border-radius: 0.6mm;
  margin-bottom: 1.5mm;
  break-inside: avoid;
`;
