import { memo, useEffect, useRef } from 'react';
import { Link, useLocation } from 'react-router';
import { styled } from 'styled-components';
import { useBuild } from '../../build/context';
import { at, color, shape, space, type } from '../../ui/theme';
import { inNextFrame } from '../../ui/use-narrow';
import { CommandBox } from '../command-box';
import { sheetAt, type SheetInfo } from '../sheets';
import { UndoButtons } from './undo';

/** On a change of sheet the heading takes the focus: a screen reader says where one is, and Tab goes on from there. */
function useHeadingFocus(sheet: string) {
  const heading = useRef<HTMLHeadingElement>(null);
  const last = useRef(sheet);
  useEffect(() => {
    if (last.current === sheet) return;
    last.current = sheet;
    heading.current?.focus({ preventScroll: true });
  }, [sheet]);
  return heading;
}

/** On a phone the pages are wider than the glass: the one on show is brought into sight. */
function usePageInSight(pathname: string) {
  const list = useRef<HTMLUListElement>(null);
  useEffect(
    () =>
      inNextFrame(() => {
        const here = list.current?.querySelector('[aria-current="page"]');
        here?.scrollIntoView({ block: 'nearest', inline: 'center' });
      }),
    [pathname],
  );
  return list;
}

/** Pages up to which a sheet's state and tools find room on the one line with them. */
const ON_ONE_LINE = 4;
const isFull = ({ pages }: SheetInfo) => pages.length > ON_ONE_LINE;

interface Places {
  readonly onVerdict: (place: HTMLElement | null) => void;
  readonly onTools: (place: HTMLElement | null) => void;
}

/** Where a sheet has too many pages for one line, its state and its tools stand at the top of the work. */
export function WorkTop({ onVerdict, onTools }: Places) {
  if (!isFull(sheetAt(useLocation().pathname))) return null;
  return (
    <Line>
      <Verdict ref={onVerdict} data-at="work" />
      <Actions ref={onTools} />
    </Line>
  );
}

/** One line: number and name of the sheet, its pages, its state in words, its tools. */
export const Head = memo(function Head({ onVerdict, onTools }: Places) {
  const { pathname } = useLocation();
  const { build } = useBuild();
  const sheet = sheetAt(pathname);
  const heading = useHeadingFocus(sheet.id);
  const list = usePageInSight(pathname);
  const page = sheet.pages.find(({ path }) => pathname.endsWith(`/${sheet.id}${path}`));
  return (
    <Header>
      <title>{`${sheet.title} · ${build.name} · Gonyx`}</title>
      <Title ref={heading} tabIndex={-1}>
        <strong>{sheet.number}</strong> {sheet.title}
      </Title>
      {sheet.pages.length > 0 && (
        <Pages aria-label={`Pages of the ${sheet.title} sheet`} ref={list}>
          {sheet.pages.map((one) => (
            <li key={one.path}>
              <PageLink
                to={`/build/${build.id}/${sheet.id}${one.path}`}
                aria-current={one === page ? 'page' : undefined}
                prefetch="intent"
              >
                {one.name}
              </PageLink>
            </li>
          ))}
        </Pages>
      )}
      {page && <PrintName>{page.name}</PrintName>}
      {isFull(sheet) ? (
        <Room />
      ) : (
        <>
          <Verdict ref={onVerdict} />
          <Actions ref={onTools} />
        </>
      )}
      <Tools>
        <UndoButtons />
        <CommandBox />
      </Tools>
    </Header>
  );
});

const Header = styled.header`
  display: flex;
  align-items: center;
  gap: 0 ${space[3]};
  min-height: 46px;
  padding: 0 10px 0 12px;
  margin: 0 10px;
  border-bottom: ${shape.line} solid ${color.ink};
  ${at.tablet} {
    flex-wrap: wrap;
    gap: 0 ${space[3]};
  }
  ${at.narrow} {
    margin: 0;
    padding: 0;
  }
`;
const Title = styled.h1`
  font-size: ${type.title};
  white-space: nowrap;
  outline: none;
  &[data-focus-visible],
  &:focus-visible {
    outline: 2.5px solid ${color.selection};
  }
`;
const Pages = styled.ul.attrs({ role: 'list' })`
  display: flex;
  align-self: stretch;
  gap: 0 ${space[4]};
  flex: none;
  ${at.tablet} {
    order: 2;
    flex: 1 1 100%;
    min-width: 0;
    overflow-x: auto;
    scrollbar-width: thin;
    /* Room for the mark under the page on show, which lies on the rule. */
    padding-bottom: 1.5px;
    margin-bottom: -1.5px;
  }
  ${at.narrow} {
    flex-wrap: wrap;
    overflow: visible;
  }
  ${at.print} {
    display: none;
  }
`;
const PageLink = styled(Link)`
  display: inline-flex;
  align-items: center;
  height: 100%;
  min-height: 36px;
  padding: 3px 1px 0;
  margin-bottom: -1.5px;
  text-decoration: none;
  color: ${color.soft};
  border-bottom: 3px solid transparent;
  white-space: nowrap;
  &:hover {
    color: ${color.ink};
  }
  &[aria-current='page'] {
    color: ${color.ink};
    font-weight: 700;
    border-bottom-color: ${color.pencil};
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
  }
`;
/** The tabs are tools and do not print; which page it is must. */
const PrintName = styled.strong`
  display: none;
  ${at.print} {
    display: block;
  }
`;
const Verdict = styled.div.attrs({ role: 'group', 'aria-label': 'State of the sheet' })`
  flex: 1 1 0;
  min-width: 0;
  max-height: 46px;
  overflow: hidden;
  font-size: 12.5px;
  line-height: 1.2;
  text-align: right;
  &[data-at='work'] {
    text-align: left;
    max-height: none;
    font-size: ${type.small};
    & br {
      display: none;
    }
    & br + * {
      margin-left: 0.6em;
    }
  }
  ${at.tablet} {
    max-height: none;
    flex-basis: 120px;
  }
  ${at.narrow} {
    order: 3;
    flex-basis: 100%;
    text-align: left;
    padding-block: ${space[1]};
  }
  ${at.print} {
    max-height: none;
  }
`;
const Room = styled.span`
  flex: 1;
`;
const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${space[1]} ${space[4]};
  min-height: 30px;
  margin-bottom: ${space[3]};
`;
const Actions = styled.div`
  display: flex;
  flex: none;
  gap: ${space[2]};
  &:empty {
    display: none;
  }
  button {
    min-height: 34px;
    padding-inline: ${space[3]};
    font-size: 14px;
  }
  ${at.tablet} {
    flex-wrap: wrap;
  }
  ${at.narrow} {
    order: 4;
    padding-bottom: ${space[2]};
  }
`;
const Tools = styled.div`
  display: flex;
  flex: none;
  align-items: center;
  gap: 2px;
  ${at.narrow} {
    flex: 1;
    order: 1;
    justify-content: flex-end;
  }
`;
