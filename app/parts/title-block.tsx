import { memo } from 'react';
import { styled } from 'styled-components';
import { currentLetter } from '~/core/netlist/revisions';
import { useBuild, useLater } from '../build/context';
import { Button } from '../ui/button';
import { exportBuild } from '../storage/export';
import { at, color, shape, space } from '../ui/theme';
import type { SheetInfo } from './sheets';

const clock = (iso: string): string =>
  new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' }).format(new Date(iso));

/** The drawing's title block: what this is, and whether it is safe on the device. */
export const TitleBlock = memo(function TitleBlock({ sheet }: { sheet: SheetInfo }) {
  const { build, view, retry, typing } = useBuild();
  const { counts } = useLater();
  const { stop, fix, note } = counts;
  const saved = view.following
    ? 'Following another tab'
    : view.saveState === 'failed'
      ? 'Not saved'
      : view.saveState === 'saving'
        ? 'Saving…'
        : typing
          ? 'Typing…'
          : `${clock(view.savedAt)}, on this device`;
  return (
    <section aria-label="Title block" style={{ alignSelf: 'end' }}>
      <Block>
        <Cell $span={3}>
          <dt>Build</dt>
          <dd>
            <strong>{build.name}</strong>
          </dd>
        </Cell>
        <Cell>
          <dt>ECU</dt>
          <dd>
            {build.ecu.model},{' '}
            {build.ecu.connectors.length === 1 ? '1 connector' : `${build.ecu.connectors.length} connectors`}
          </dd>
        </Cell>
        <Cell $span={2}>
          <dt>Open findings</dt>
          <dd>
            {stop > 0 && <Stop>{stop} stop</Stop>}
            {stop > 0 && fix > 0 && ', '}
            {fix > 0 && `${fix} to fix`}
            {stop + fix === 0 && (note > 0 ? `${note} notes` : 'none')}
          </dd>
        </Cell>
        <Cell>
          <dt>Saved</dt>
          <dd
            data-testid="save-state"
            data-saved-at={view.savedAt}
            data-state={typing && view.saveState === 'saved' ? 'typing' : view.saveState}
          >
            {view.saveState === 'failed' ? <Stop>{saved}</Stop> : saved}
            {view.saveState === 'failed' && (
              <>
                {' '}
                <Button weight="quiet" onPress={() => void exportBuild(build)}>
                  Export now
                </Button>{' '}
                <Button weight="quiet" onPress={retry}>
                  Try again
                </Button>
              </>
            )}
          </dd>
        </Cell>
        <Cell>
          <dt>Revision</dt>
          <dd>
            <strong>{currentLetter(build)}</strong>
          </dd>
        </Cell>
        <Cell>
          <dt>Sheet</dt>
          <dd>{sheet.number} of 9</dd>
        </Cell>
      </Block>
    </section>
  );
});

const Block = styled.dl`
  display: grid;
  grid-template-columns: 5fr 2fr 2fr;
  border: ${shape.line} solid ${color.ink};
  background: ${color.sheet};
  ${at.narrow} {
    border-width: ${shape.hair};
  }
`;
const Cell = styled.div<{ $span?: 1 | 2 | 3 }>`
  grid-column: span ${({ $span = 1 }) => $span};
  padding: 3px ${space[3]} 5px;
  min-width: 0;
  border-left: ${shape.hair} solid ${color.ink};
  border-top: ${shape.hair} solid ${color.ink};
  margin: calc(-1 * ${shape.hair}) 0 0 calc(-1 * ${shape.hair});
  dt {
    font-size: 12px;
    color: ${color.soft};
    line-height: 1.3;
  }
  dd {
    line-height: 1.25;
    overflow-wrap: anywhere;
  }
`;
const Stop = styled.strong`
  color: ${color.stop};
`;
