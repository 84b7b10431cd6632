import { X } from 'lucide-react';
import { styled } from 'styled-components';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { download, fileName } from '../../storage/files';
import { Button } from '../../ui/button';
import { at, color, space } from '../../ui/theme';
import { NewVersion } from '../new-version';
import { IconButton } from './icon-button';

/** What the person must know of this build just now; nothing most of the time. */
export function Notices() {
  const { build, view, dismiss, takeOver, asideText, dropAside } = useBuild();
  const text = view.problem?.sentence ?? view.notice;
  const saveAside = async () => {
    const file = await asideText();
    if (file !== null) download(fileName(`${build.name} put aside`, 'json'), 'application/json', file);
  };
  return (
    <div role="status" aria-live="polite">
      <NewVersion />
      {view.following && (
        <Notice>
          <span>Another tab is writing this build. This one follows and cannot change it.</span>
          <Button weight="quiet" onPress={takeOver}>
            Write here instead
          </Button>
        </Notice>
      )}
      {view.aside > 0 && (
        <Notice>
          <span>
            {plural(view.aside, 'change')} of an earlier session stood on a state that was never saved:{' '}
            {view.aside === 1 ? 'it was' : 'they were'} put aside, not applied.
          </span>
          <span>
            <Button weight="quiet" onPress={() => void saveAside()}>
              Save as a file
            </Button>{' '}
            <Button weight="quiet" onPress={dropAside}>
              Drop {view.aside === 1 ? 'it' : 'them'}
            </Button>
          </span>
        </Notice>
      )}
      {text && (
        <Notice data-problem={view.problem !== null}>
          <span>{text}</span>
          <IconButton aria-label="Dismiss" onPress={dismiss}>
            <X size={16} aria-hidden />
          </IconButton>
        </Notice>
      )}
    </div>
  );
}

const Notice = styled.div`
  display: flex;
  align-items: center;
  button {
    flex: none;
  }
  ${at.narrow} {
    flex-wrap: wrap;
  }
  justify-content: space-between;
  gap: ${space[3]};
  padding: 2px ${space[3]};
  background: ${color.selectionWash};
  &[data-problem='true'] {
    background: ${color.raised};
    border-left: 4px solid ${color.stop};
    color: ${color.stop};
  }
  ${at.print} {
    display: none;
  }
`;
