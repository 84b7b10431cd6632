import type { ReactNode } from 'react';
import { NavLink, useLocation, useParams } from 'react-router';
import { styled } from 'styled-components';
import type { SheetId } from '~/core/rules/rule';
import { at, color, shape, space } from '../ui/theme';
import { SheetFrame } from './sheet-frame';

export interface SheetPage {
  readonly path: string;
  readonly name: string;
}

/** A sheet of several pages, each with an address of its own. */
export function PagedSheet({
  sheet,
  pages,
  label,
  summary,
  actions,
  children,
}: {
  sheet: SheetId;
  pages: readonly SheetPage[];
  label: string;
  summary: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
}) {
  const { buildId } = useParams();
  const { pathname } = useLocation();
  return (
    <SheetFrame sheet={sheet} summary={summary} actions={actions}>
      <Pages aria-label={label}>
        {pages.map((page) => (
          <li key={page.path}>
            <PageLink to={`/build/${buildId}/${sheet}${page.path}`} end prefetch="intent">
              {page.name}
            </PageLink>
          </li>
        ))}
      </Pages>
      <PrintName>{pages.find((page) => pathname.endsWith(`/${sheet}${page.path}`))?.name}</PrintName>
      {children}
    </SheetFrame>
  );
}

const Pages = styled.ul.attrs({ role: 'list' })`
  display: flex;
  flex-wrap: wrap;
  gap: 0 ${space[4]};
  margin-bottom: ${space[3]};
  border-bottom: ${shape.hair} solid ${color.rule};
  ${at.narrow} {
    flex-wrap: nowrap;
    overflow-x: auto;
    scrollbar-width: thin;
  }
  ${at.print} {
    display: none;
  }
`;
/** The tabs are tools and do not print; which page it is must. */
const PrintName = styled.strong`
  display: none;
  ${at.print} {
    display: block;
  }
`;
const PageLink = styled(NavLink)`
  display: inline-flex;
  align-items: center;
  padding: ${space[1]} 2px;
  min-height: 36px;
  text-decoration: none;
  color: ${color.soft};
  border-bottom: 3px solid transparent;
  white-space: nowrap;
  &:hover {
    color: ${color.ink};
  }
  scroll-margin-inline: 80px;
  &[aria-current='page'] {
    color: ${color.ink};
    font-weight: 700;
    border-bottom-color: ${color.pencil};
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
  }
`;
