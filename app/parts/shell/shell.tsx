import { memo, useLayoutEffect, useMemo, useState } from 'react';
import { Outlet, useLocation } from 'react-router';
import { styled } from 'styled-components';
import { useLater } from '../../build/context';
import { at, color, shape, space, type } from '../../ui/theme';
import { Marks, MarksContext } from '../findings/marks';
import { FindingsRail } from '../findings/rail';
import { RunStrip } from '../run/run-strip';
import { Page } from '../sheet-frame';
import { Spine } from '../spine';
import { TitleBlock } from '../title-block';
import { Guard } from './guard';
import { Head, WorkTop } from './head';
import { Notices } from './notices';
import { Pending } from './pending';
import { RunOnShow, StateOnShow, SlotsContext } from './slots';

/** What every sheet of a build stands in. It is drawn once; each part listens for itself, and none of them takes another with it. */
export const Shell = memo(function Shell() {
  const [verdict, setVerdict] = useState<HTMLElement | null>(null);
  const [tools, setTools] = useState<HTMLElement | null>(null);
  const [shown] = useState(() => new RunOnShow());
  const [readIn] = useState(() => new StateOnShow());
  const [marks] = useState(() => new Marks());
  const slots = useMemo(() => ({ verdict, tools, shown, readIn }), [verdict, tools, shown, readIn]);
  return (
    <SlotsContext value={slots}>
      <MarksContext value={marks}>
        <Desk>
          <SkipLink href="#work">Skip to the work</SkipLink>
          <Guard part="How far each sheet is" fallback={<Spine fill={null} />}>
            <Trunk />
          </Guard>
          <Page>
            <Sheet>
              <Pending />
              <Head onVerdict={setVerdict} onTools={setTools} />
              <Notices />
              <Body>
                <Main id="work">
                  <WorkTop onVerdict={setVerdict} onTools={setTools} />
                  <PageBegins />
                  <Outlet />
                </Main>
                <Guard part="The list of findings">
                  <FindingsRail />
                </Guard>
              </Body>
              <Foot>
                <Guard part="The run">
                  <RunStrip />
                </Guard>
                <Guard part="The title block">
                  <TitleBlock />
                </Guard>
              </Foot>
            </Sheet>
          </Page>
        </Desk>
      </MarksContext>
    </SlotsContext>
  );
});

/** Another page begins at its top, or at what its address names. */
function PageBegins() {
  const { pathname, hash } = useLocation();
  useLayoutEffect(() => {
    const named = hash === '' ? null : document.getElementById(decodeURIComponent(hash.slice(1)));
    if (named) named.scrollIntoView();
    else document.getElementById('work')?.scrollTo(0, 0);
  }, [pathname, hash]);
  return null;
}

function Trunk() {
  return <Spine fill={useLater().fill} />;
}

export const Desk = styled.div`
  display: grid;
  grid-template-columns: var(--spine) minmax(0, 1fr);
  height: 100dvh;
  overflow: clip;
  ${at.narrow} {
    display: block;
    height: auto;
    overflow: visible;
  }
  ${at.print} {
    display: block;
    height: auto;
    overflow: visible;
  }
`;
/** The first thing Tab comes to; seen only then. */
const SkipLink = styled.a`
  position: fixed;
  top: ${space[2]};
  left: ${space[2]};
  z-index: 30;
  padding: ${space[2]} ${space[4]};
  background: ${color.ink};
  color: ${color.onInk};
  border-radius: ${shape.radius};
  &:not(:focus) {
    clip-path: inset(50%);
    width: 1px;
    height: 1px;
    padding: 0;
    overflow: hidden;
  }
  ${at.print} {
    display: none;
  }
`;
const Sheet = styled.div`
  position: relative;
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto auto auto minmax(0, 1fr) auto;
  background: ${color.sheet};
  border: ${shape.line} solid ${color.ink};
  box-shadow:
    inset 0 0 0 4px ${color.sheet},
    inset 0 0 0 5px ${color.rule};
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
const Body = styled.div`
  position: relative;
  display: flex;
  min-height: 0;
  margin: 0 6px;
  ${at.narrow} {
    flex-direction: column-reverse;
    margin: 0;
  }
  ${at.print} {
    display: block;
  }
`;
const Main = styled.div.attrs({ tabIndex: -1 })`
  flex: 1;
  min-width: 0;
  min-height: 0;
  overflow: auto;
  /* A sheet that fills the pane takes what is left of it; the others are as long as they are. */
  display: flex;
  flex-direction: column;
  & > * {
    flex: none;
  }
  padding: ${space[3]} ${space[4]};
  outline: none;
  /* A soft edge where more is to be seen by scrolling. */
  background:
    linear-gradient(${color.sheet} 40%, transparent) top / 100% 28px no-repeat local,
    linear-gradient(transparent, ${color.sheet} 60%) bottom / 100% 28px no-repeat local,
    linear-gradient(rgb(60 50 30 / 0.16), transparent) top / 100% 9px no-repeat scroll,
    linear-gradient(transparent, rgb(60 50 30 / 0.16)) bottom / 100% 9px no-repeat scroll;
  ${at.narrow} {
    display: block;
    overflow: visible;
    padding-inline: 2px;
  }
  ${at.print} {
    display: block;
    overflow: visible;
    padding: 0;
  }
`;
const Foot = styled.footer`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 304px;
  height: 72px;
  margin: 0 1px 1px;
  border-top: ${shape.line} solid ${color.ink};
  font-size: ${type.small};
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr) 250px;
  }
  ${at.narrow} {
    display: block;
    height: auto;
  }
  ${at.print} {
    display: block;
    height: auto;
    break-inside: avoid;
    margin: ${space[4]} 0 0;
  }
`;
