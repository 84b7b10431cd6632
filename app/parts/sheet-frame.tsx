import { Redo2, Undo2, X } from 'lucide-react';
import { useEffect, type ReactNode } from 'react';
import { Button as AriaButton, Tooltip, TooltipTrigger } from 'react-aria-components';
import { css, styled } from 'styled-components';
import type { Selection } from '~/core/netlist/run';
import type { SheetId } from '~/core/rules/rule';
import { plural } from '~/core/units/format';
import { useBuild } from '../build/context';
import { download, fileName } from '../storage/files';
import { Button } from '../ui/button';
import { popoverLook } from '../ui/field-look';
import { at, color, shape, space, type } from '../ui/theme';
import { CommandBox } from './command-box';
import { FindingsMargin } from './findings-margin';
import { NewVersion } from './new-version';
import { RunStrip } from './run-strip';
import { sheetInfo } from './sheets';
import { TitleBlock } from './title-block';

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** A field that always has the focus, and nothing in it to undo: the sheet's own undo is meant. */
const isIdle = (target: EventTarget | null) =>
  target instanceof HTMLInputElement && target.dataset.undo === 'sheet' && target.value === '';

function UndoButtons() {
  const { view, undo, redo } = useBuild();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || (isTyping(event.target) && !isIdle(event.target))) return;
      const key = event.key.toLowerCase();
      if (key === 'z' && !event.shiftKey) {
        event.preventDefault();
        undo();
      } else if (key === 'y' || (key === 'z' && event.shiftKey)) {
        event.preventDefault();
        redo();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [undo, redo]);
  return (
    <>
      <TooltipTrigger delay={300}>
        <IconButton
          aria-label={view.undoLabel ? `Undo: ${view.undoLabel}` : 'Undo'}
          isDisabled={!view.undoLabel}
          onPress={undo}
        >
          <Undo2 size={19} aria-hidden />
        </IconButton>
        <Tip>Undo {view.undoLabel} (Ctrl Z)</Tip>
      </TooltipTrigger>
      <TooltipTrigger delay={300}>
        <IconButton
          aria-label={view.redoLabel ? `Do again: ${view.redoLabel}` : 'Do again'}
          isDisabled={!view.redoLabel}
          onPress={redo}
        >
          <Redo2 size={19} aria-hidden />
        </IconButton>
        <Tip>Do again {view.redoLabel} (Ctrl Y)</Tip>
      </TooltipTrigger>
    </>
  );
}

function Notices() {
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

/** One drawing sheet: number and title, its state in words, its tools; the work; findings; the run and the title block. */
export function SheetFrame({
  sheet,
  summary,
  actions,
  showing,
  children,
}: {
  sheet: SheetId;
  summary: ReactNode;
  actions?: ReactNode;
  /** What the run strip shows when the sheet has its own idea of it. */
  showing?: Selection;
  children: ReactNode;
}) {
  const info = sheetInfo(sheet);
  const { build } = useBuild();
  return (
    <Page>
      <title>{`${info.title} · ${build.name} · Gonyx`}</title>
      <Sheet>
        <Header>
          <Title>
            <strong>{info.number}</strong> {info.title}
          </Title>
          <Summary>{summary}</Summary>
          {actions && <Actions>{actions}</Actions>}
          <Tools>
            <UndoButtons />
            <CommandBox />
          </Tools>
        </Header>
        <Notices />
        <Body>
          <Main id="work">{children}</Main>
          <Margin>
            <FindingsMargin sheet={sheet} />
          </Margin>
        </Body>
        <Foot>
          <RunStrip showing={showing} />
          <TitleBlock sheet={info} />
        </Foot>
      </Sheet>
    </Page>
  );
}

export const Page = styled.main`
  min-width: 0;
  min-height: 0;
  height: 100dvh;
  padding: 14px 14px 14px 4px;
  ${at.narrow} {
    height: auto;
    min-height: 100dvh;
    padding: ${space[2]} ${space[2]} 128px;
  }
  ${at.print} {
    height: auto;
    padding: 0;
  }
`;
const Sheet = styled.div`
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  background: ${color.sheet};
  border: ${shape.line} solid ${color.ink};
  box-shadow:
    inset 0 0 0 5px ${color.sheet},
    inset 0 0 0 6px ${color.rule};
  padding: ${space[3]} ${space[5]} 6px;
  ${at.narrow} {
    height: auto;
    padding: ${space[3]};
    box-shadow: none;
  }
  ${at.print} {
    height: auto;
    display: block;
    box-shadow: none;
  }
`;
const Header = styled.header`
  display: flex;
  align-items: center;
  gap: ${space[2]} ${space[5]};
  padding-bottom: ${space[3]};
  border-bottom: ${shape.line} solid ${color.ink};
  ${at.tablet} {
    flex-wrap: wrap;
  }
`;
const Title = styled.h1`
  font-size: ${type.title};
  white-space: nowrap;
`;
const Summary = styled.div`
  flex: 1;
  min-width: 0;
  line-height: 1.3;
  ${at.tablet} {
    flex-basis: 240px;
  }
  ${at.narrow} {
    flex-basis: 100%;
    order: 3;
  }
`;
const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${space[2]};
  ${at.narrow} {
    order: 4;
  }
`;
const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  align-items: center;
  gap: ${space[2]};
  ${at.narrow} {
    flex: 1;
    order: 1;
  }
`;
const IconButton = styled(AriaButton)`
  display: grid;
  place-items: center;
  width: 36px;
  height: 36px;
  border: 0;
  border-radius: ${shape.radius};
  background: none;
  cursor: pointer;
  &[data-hovered] {
    background: ${color.raised};
  }
  &[data-disabled] {
    color: ${color.rule};
    cursor: default;
  }
  ${at.narrow} {
    width: ${shape.target};
    height: ${shape.target};
  }
  ${at.print} {
    display: none;
  }
`;
const Tip = styled(Tooltip)`
  ${popoverLook}
  padding: ${space[1]} ${space[2]};
  font-size: ${type.small};
`;
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
  padding: ${space[1]} ${space[3]};
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
/** A soft edge where more is to be seen by scrolling. */
const scrollEdge = css`
  background:
    linear-gradient(${color.sheet} 40%, transparent) top / 100% 28px no-repeat local,
    linear-gradient(transparent, ${color.sheet} 60%) bottom / 100% 28px no-repeat local,
    linear-gradient(rgb(60 50 30 / 0.16), transparent) top / 100% 9px no-repeat scroll,
    linear-gradient(transparent, rgb(60 50 30 / 0.16)) bottom / 100% 9px no-repeat scroll;
`;
const Body = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) var(--margin-column);
  min-height: 0;
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(0, 1fr) auto;
  }
  ${at.narrow} {
    display: block;
  }
  ${at.print} {
    display: block;
  }
`;
const Main = styled.div.attrs({ tabIndex: -1 })`
  min-width: 0;
  min-height: 0;
  overflow: auto;
  padding: ${space[3]} ${space[4]} ${space[4]} 2px;
  outline: none;
  ${scrollEdge}
  ${at.print} {
    overflow: visible;
  }
`;
const Margin = styled.div.attrs({ tabIndex: 0, role: 'group', 'aria-label': 'Margin' })`
  min-height: 0;
  overflow: auto;
  padding: ${space[3]} 2px ${space[4]} ${space[4]};
  border-left: ${shape.hair} solid ${color.rule};
  ${scrollEdge}
  ${at.tablet} {
    border-left: 0;
    border-top: ${shape.hair} solid ${color.rule};
    padding-inline: 2px;
    max-height: 190px;
  }
  ${at.narrow} {
    max-height: none;
  }
  ${at.print} {
    display: none;
  }
`;
const Foot = styled.footer`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
  gap: ${space[4]};
  border-top: ${shape.line} solid ${color.ink};
  padding-top: 6px;
  margin-right: -18px;
  min-height: 146px;
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr) 300px;
  }
  ${at.narrow} {
    display: block;
    min-height: 0;
    margin-right: 0;
  }
  ${at.print} {
    display: block;
    break-inside: avoid;
    margin: ${space[4]} 0 0;
  }
`;
