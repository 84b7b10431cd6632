import { Moon, Sun } from 'lucide-react';
import { memo, useEffect, useRef } from 'react';
import { Button } from 'react-aria-components';
import { Link, useLocation } from 'react-router';
import { styled } from 'styled-components';
import type { SheetId } from '~/core/rules/rule';
import { inNextFrame } from '../ui/use-narrow';
import { applyTheme, at, color, currentTheme, shape, space, type } from '../ui/theme';
import { sheetList } from './sheets';

/** One branch, drawn again only when its sheet has come further. */
const Limb = memo(function Limb({
  to,
  title,
  percent,
  here,
}: {
  to: string;
  title: string;
  percent: number;
  here: boolean;
}) {
  return (
    <li>
      <Branch
        to={to}
        aria-label={`${title}, ${percent} % done`}
        aria-current={here ? 'page' : undefined}
        prefetch="intent"
      >
        <Stub aria-hidden viewBox="0 0 28 22" focusable="false">
          <path d="M2 0 C2 14 8 18 28 18" fill="none" stroke="currentColor" strokeWidth="4" />
        </Stub>
        <Box aria-hidden>
          <Level style={{ height: `${percent}%` }} />
        </Box>
        <span>{title}</span>
      </Branch>
    </li>
  );
});

/** The trunk with its nine branches: navigation, and how far each sheet is. */
export const Spine = memo(function Spine({ fill }: { fill: Record<SheetId, number> | null }) {
  const { pathname } = useLocation();
  const buildId = pathname.split('/')[2];
  const sheetId = pathname.split('/')[3];
  const nav = useRef<HTMLElement>(null);
  // On a phone the strip is wider than the glass: the sheet one is on stands in its middle.
  useEffect(
    () =>
      inNextFrame(() => {
        const strip = nav.current;
        const here = strip?.querySelector('[aria-current="page"]');
        if (!strip || !here) return;
        const [outer, inner] = [strip.getBoundingClientRect(), here.getBoundingClientRect()];
        strip.scrollLeft += inner.left + inner.width / 2 - outer.left - outer.width / 2;
      }),
    [pathname],
  );
  return (
    <Nav aria-label="Sheets" ref={nav}>
      <Home to="/" aria-label="Garage: all builds">
        <img src="/mark.svg" width="34" height="34" alt="" />
        <span>Garage</span>
      </Home>
      <Branches>
        {sheetList.map((sheet) => {
          const share = fill?.[sheet.id] ?? 0;
          return (
            <Limb
              key={sheet.id}
              to={`/build/${buildId}/${sheet.id}`}
              title={sheet.title}
              percent={Math.round(share * 100)}
              here={sheet.id === sheetId}
            />
          );
        })}
      </Branches>
      <ThemeButton
        aria-label="Change between paper and night"
        onPress={() => applyTheme(currentTheme() === 'night' ? 'paper' : 'night')}
      >
        <Sun size={18} aria-hidden className="by-night" />
        <Moon size={18} aria-hidden className="by-day" />
      </ThemeButton>
    </Nav>
  );
});

const Nav = styled.nav`
  position: relative;
  display: flex;
  flex-direction: column;
  align-items: stretch;
  padding: ${space[3]} 0 ${space[2]};
  ${at.narrow} {
    position: fixed;
    inset: auto 0 0 0;
    z-index: 10;
    flex-direction: row;
    align-items: center;
    padding: 0 ${space[1]};
    background: ${color.paper};
    border-top: ${shape.line} solid ${color.ink};
    overflow-x: auto;
  }
  ${at.print} {
    display: none;
  }
`;
const Home = styled(Link)`
  display: grid;
  justify-items: center;
  gap: 2px;
  padding-bottom: ${space[2]};
  font-size: ${type.small};
  text-decoration: none;
  ${at.narrow} {
    padding: ${space[1]} ${space[2]};
    img {
      width: 26px;
      height: 26px;
    }
  }
`;
const Branches = styled.ul`
  position: relative;
  flex: 1;
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  max-height: 640px;
  &::before {
    content: '';
    position: absolute;
    left: 12px;
    top: -6px;
    bottom: 20px;
    width: 6px;
    border-radius: 4px;
    background: ${color.ink};
  }
  ${at.narrow} {
    flex-direction: row;
    flex: none;
    gap: 2px;
    padding: 0;
    &::before {
      left: 8px;
      right: 8px;
      top: 17px;
      bottom: auto;
      width: auto;
      height: 3px;
    }
  }
`;
const Stub = styled.svg`
  position: absolute;
  left: 13px;
  top: 0;
  width: 24px;
  height: 20px;
  ${at.narrow} {
    display: none;
  }
`;
const Box = styled.span`
  position: relative;
  width: 28px;
  height: 28px;
  border: 2px solid ${color.ink};
  border-radius: 7px;
  background: ${color.sheet};
  padding: 2px;
  display: flex;
  align-items: flex-end;
`;
const Level = styled.span`
  width: 100%;
  border-radius: 3px;
  background: ${color.ink};
`;
const Branch = styled(Link)`
  position: relative;
  display: grid;
  justify-items: center;
  gap: 3px;
  padding: ${space[1]} 0 ${space[1]} 18px;
  margin-right: 2px;
  font-size: ${type.small};
  line-height: 1.2;
  text-decoration: none;
  white-space: nowrap;
  & > span:last-child {
    min-width: 52px;
    text-align: center;
  }
  &[aria-current='page'] {
    font-weight: 700;
    ${Box} {
      border-color: ${color.pencil};
    }
    ${Level} {
      background: ${color.pencil};
    }
  }
  ${at.narrow} {
    padding: ${space[1]} 2px;
    margin: 0;
    min-width: 56px;
    min-height: 52px;
    align-content: center;
  }
`;
const ThemeButton = styled(Button)`
  align-self: center;
  display: grid;
  place-items: center;
  width: 40px;
  height: 40px;
  flex: none;
  border: 0;
  border-radius: ${shape.radius};
  background: none;
  cursor: pointer;
  .by-night {
    display: none;
  }
  :root[data-theme='night'] & .by-night {
    display: block;
  }
  :root[data-theme='night'] & .by-day {
    display: none;
  }
  @media (prefers-color-scheme: dark) {
    :root:not([data-theme='paper']) & .by-night {
      display: block;
    }
    :root:not([data-theme='paper']) & .by-day {
      display: none;
    }
  }
`;
