import { memo } from 'react';
import { useLocation } from 'react-router';
import { styled } from 'styled-components';
import { currentLetter } from '~/core/netlist/revisions';
import { plural } from '~/core/units/format';
import { useBuild, useLater } from '../build/context';
import { Button } from '../ui/button';
import { exportBuild } from '../storage/export';
import { VisuallyHidden } from '../ui/text';
import { at, color, shape, space } from '../ui/theme';
import { sheetAt } from './sheets';

const clock = (iso: string): string =>
  new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' }).format(new Date(iso));

/** The drawing's title block: what this is, and whether it is safe on the device. */
export const TitleBlock = memo(function TitleBlock() {
  const { build } = useBuild();
  const sheet = sheetAt(useLocation().pathname);
  return (
    <Block aria-label="Title block">
      <dl>
        <Name>
          <dt>Build</dt>
          <dd>
            <strong title={build.name}>{build.name}</strong>
          </dd>
        </Name>
        <SaveCell />
        <Cell>
          <dt>ECU</dt>
          <dd title={build.ecu.model}>{build.ecu.model}</dd>
        </Cell>
        <Cell>
          <dt>Rev.</dt>
          <dd>
            <strong>{currentLetter(build)}</strong>
          </dd>
        </Cell>
        <Cell>
          <dt>Sheet</dt>
          <dd>{sheet.number} of 9</dd>
        </Cell>
        <OnPaper>
          <dt>Open findings</dt>
          <dd>
            <OpenFindings />
          </dd>
        </OnPaper>
      </dl>
    </Block>
  );
});

/** Whether what was done is on the device yet. */
function SaveCell() {
  const { build, view, retry, typing } = useBuild();
  const saved = view.following
    ? 'following another tab'
    : view.saveState === 'failed'
      ? 'not saved'
      : view.saveState === 'saving'
        ? 'saving…'
        : typing
          ? 'typing…'
          : `saved ${clock(view.savedAt)}`;
  const state = typing && view.saveState === 'saved' ? 'typing' : view.saveState;
  return (
    <Saved>
      <VisuallyHidden as="dt">Saved</VisuallyHidden>
      <dd data-testid="save-state" data-saved-at={view.savedAt} data-state={state}>
        {saved}
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
    </Saved>
  );
}

/** On the screen the rail counts them; on paper they must stand. */
function OpenFindings() {
  const { stop, fix, note } = useLater().counts;
  const words = [stop > 0 && `${stop} stop`, fix > 0 && `${fix} to fix`, note > 0 && plural(note, 'note')];
  return words.filter((one) => one !== false).join(', ') || 'none';
}

const Block = styled.section`
  min-width: 0;
  & > dl {
    height: 100%;
    display: grid;
    grid-template: 'name name name' minmax(0, 1fr) 'ecu rev sheet' minmax(0, 1fr) / minmax(0, 1fr) 54px 76px;
    border-left: ${shape.line} solid ${color.ink};
  }
  dt {
    font-size: 12px;
    color: ${color.soft};
    line-height: 1.15;
  }
  dd {
    line-height: 1.25;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  ${at.narrow} {
    border: ${shape.hair} solid ${color.ink};
    & > dl {
      border: 0;
    }
  }
  ${at.print} {
    & > dl {
      height: auto;
      grid-template: 'name name name name' auto 'ecu rev sheet open' auto / minmax(0, 1fr) 54px 76px auto;
      border: ${shape.line} solid ${color.ink};
      max-width: 480px;
      margin-left: auto;
    }
  }
`;
const Cell = styled.div`
  padding: 2px ${space[3]};
  min-width: 0;
  border-top: ${shape.hair} solid ${color.ink};
  & + & {
    border-left: ${shape.hair} solid ${color.ink};
  }
`;
const Name = styled.div`
  grid-area: name;
  min-width: 0;
  padding: 2px ${space[3]};
`;
const Saved = styled.div`
  grid-area: name;
  justify-self: end;
  align-self: start;
  padding: 2px ${space[3]} 0 0;
  font-size: 12px;
  dd {
    line-height: 1.15;
    color: ${color.soft};
  }
  dd[data-state='saved'] {
    color: ${color.proved};
  }
  dd[data-state='failed'] {
    color: ${color.stop};
    font-weight: 700;
  }
  button {
    font-size: 12px;
  }
`;
const OnPaper = styled(Cell)`
  display: none;
  ${at.print} {
    display: block;
    border-left: ${shape.hair} solid ${color.ink};
  }
`;
