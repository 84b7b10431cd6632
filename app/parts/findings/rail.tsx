import { Pin, PinOff, X } from 'lucide-react';
import { memo, useContext, useEffect, useMemo, useRef, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { useLocation } from 'react-router';
import { styled } from 'styled-components';
import { sameAsBefore } from '~/core/data/keep-same';
import { groupFindings, type FindingGroup } from '~/core/rules/grouped';
import type { Finding, SheetId } from '~/core/rules/rule';
import { plural } from '~/core/units/format';
import { useBuild, useLater } from '../../build/context';
import { Heading, Small, Stack, toneColor } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';
import { useStable } from '../../ui/use-stable';
import { sheetAt } from '../sheets';
import { IconButton } from '../shell/icon-button';
import { AsideItem, GroupItem, groupTitle, OtherItem, severityIcons } from './item';
import { MarksContext, thingKey } from './marks';
import { isPinned, keepPinned } from './pinned';

/** Pips that find room beside the work; the panel has them all. */
const MOST_PIPS = 8;

interface Opened {
  readonly sheet: SheetId;
  readonly group: string | null;
  /** The sheet it was opened from, until the other is there: it stays in sight on the way. */
  readonly from: SheetId | null;
}

/** Whether the panel stands open, and at what. Open only for the sheet it was opened on, unless it is pinned. */
function usePanel(sheet: SheetId) {
  const [pinned, setPinned] = useState(isPinned);
  const [opened, setOpened] = useState<Opened | null>(null);
  if (opened?.from && opened.sheet === sheet) setOpened({ ...opened, from: null });
  const here = opened && (opened.sheet === sheet || opened.from === sheet) ? opened : null;
  return {
    pinned,
    isOpen: pinned || here !== null,
    group: here?.group ?? null,
    open: (group: string | null, on = sheet) => setOpened({ sheet: on, group, from: on === sheet ? null : sheet }),
    /** Looked at for a moment: done with. */
    dismiss: () => setOpened(null),
    close: () => {
      setOpened(null);
      if (pinned) {
        keepPinned(false);
        setPinned(false);
      }
    },
    pin: (kept: boolean) => {
      keepPinned(kept);
      setPinned(kept);
      setOpened({ sheet, group: null, from: null });
    },
  };
}

/** Live checks: a rail of pips beside the work, this sheet's; it opens to all of them. */
export const FindingsRail = memo(function FindingsRail() {
  const sheet = sheetAt(useLocation().pathname).id;
  const { findings } = useLater();
  const { select, goTo } = useBuild();
  const panel = usePanel(sheet);
  const count = useRef<HTMLButtonElement>(null);
  const [sameGroups] = useState(() => sameAsBefore<FindingGroup>(({ id }) => id));
  const { mine, others, aside, standing } = useMemo(() => {
    const stand = findings.filter((finding) => finding.aside === null);
    return {
      standing: stand.length,
      mine: sameGroups(groupFindings(stand.filter((finding) => finding.sheet === sheet))),
      others: groupFindings(stand.filter((finding) => finding.sheet !== sheet)),
      aside: findings.filter((finding) => finding.aside !== null),
    };
  }, [findings, sheet, sameGroups]);
  const marks = useContext(MarksContext);
  useEffect(() => {
    marks.set(findings.filter((finding) => finding.sheet === sheet && finding.aside === null));
  }, [marks, findings, sheet]);
  const here = mine.reduce((sum, group) => sum + group.findings.length, 0);
  useEffect(() => {
    if (!panel.isOpen || panel.pinned) return;
    const onPress = ({ target }: PointerEvent) => {
      if (target instanceof Element && target.closest('#work')) panel.dismiss();
    };
    document.addEventListener('pointerdown', onPress);
    return () => document.removeEventListener('pointerdown', onPress);
  });
  const close = () => {
    panel.close();
    count.current?.focus();
  };
  // On the sheet it belongs to, the panel is open at it again.
  const go = useStable((group: FindingGroup) => {
    const { where, sheet: there } = group.findings[0];
    if (where) select(where);
    panel.open(group.id, there);
    goTo(there);
  });
  const show = useStable((group: FindingGroup) => {
    const { where } = group.findings[0];
    if (where) select(where);
    // One place with a mark of its own: it opens there. Several, or none on show, are told in the panel.
    if (where && group.findings.length === 1 && marks.has(thingKey(where))) marks.open(thingKey(where));
    else panel.open(group.id);
  });
  return (
    <Aside aria-label="Findings" onKeyDown={(event) => event.key === 'Escape' && panel.isOpen && close()}>
      <Rail>
        <Count
          ref={count}
          aria-expanded={panel.isOpen}
          aria-label={`${plural(standing, 'finding')}: ${panel.isOpen ? 'hide' : 'show'} them`}
          onPress={() => (panel.isOpen ? close() : panel.open(null))}
        >
          {standing}
        </Count>
        {mine.slice(0, MOST_PIPS).map((group) => (
          <Pip key={group.id} group={group} chosen={panel.group === group.id} onShow={show} />
        ))}
        {mine.length > MOST_PIPS && <More onPress={() => panel.open(null)}>+{mine.length - MOST_PIPS}</More>}
      </Rail>
      {panel.isOpen && (
        <Panel data-pinned={panel.pinned} tabIndex={0} role="group" aria-label="All findings">
          <Top>
            <strong>{here > 0 ? `On this sheet ${here}` : 'No finding on this sheet'}</strong>
            <IconButton
              aria-label={panel.pinned ? 'No longer keep it beside the work' : 'Keep it beside the work'}
              aria-pressed={panel.pinned}
              onPress={() => panel.pin(!panel.pinned)}
            >
              {panel.pinned ? <PinOff size={17} aria-hidden /> : <Pin size={17} aria-hidden />}
            </IconButton>
            <IconButton aria-label="Close the findings" onPress={close}>
              <X size={17} aria-hidden />
            </IconButton>
          </Top>
          <Stack as="ul" $gap={4}>
            {mine.map((group) => (
              <GroupItem key={group.id} group={group} here={sheet} chosen={panel.group === group.id} />
            ))}
          </Stack>
          <Elsewhere others={others} onGo={go} />
          <SetAside aside={aside} />
        </Panel>
      )}
    </Aside>
  );
});

const Pip = memo(function Pip({
  group,
  chosen,
  onShow,
}: {
  group: FindingGroup;
  chosen: boolean;
  onShow: (group: FindingGroup) => void;
}) {
  const Icon = severityIcons[group.severity];
  const times = group.findings.length;
  return (
    <PipButton
      aria-label={`${group.rule}${times > 1 ? ` ${times} ×` : ''} ${group.severity}: ${groupTitle(group)}`}
      data-chosen={chosen}
      style={{ color: toneColor(group.severity) }}
      onPress={() => onShow(group)}
    >
      <Icon size={19} aria-hidden />
      <span>{group.rule}</span> {times > 1 && <b>{times} ×</b>}
    </PipButton>
  );
});

function Elsewhere({ others, onGo }: { others: readonly FindingGroup[]; onGo: (group: FindingGroup) => void }) {
  if (others.length === 0) return null;
  return (
    <>
      <Heading>On other sheets</Heading>
      <Stack as="ul" $gap={1}>
        {others.map((group) => (
          <OtherItem key={group.id} group={group} onGo={onGo} />
        ))}
      </Stack>
    </>
  );
}

function SetAside({ aside }: { aside: readonly Finding[] }) {
  if (aside.length === 0) return null;
  return (
    <>
      <Heading>Set aside {aside.length}</Heading>
      <Small>Left as they are, each with who says so and why.</Small>
      <Stack as="ul" $gap={3}>
        {aside.map((finding) => (
          <AsideItem key={finding.id} finding={finding} />
        ))}
      </Stack>
    </>
  );
}

const Aside = styled.aside`
  position: relative;
  flex: none;
  display: flex;
  flex-direction: row-reverse;
  min-height: 0;
  border-left: ${shape.hair} solid ${color.rule};
  ${at.narrow} {
    flex-direction: column;
    border-left: 0;
    border-bottom: ${shape.hair} solid ${color.rule};
  }
  ${at.print} {
    display: none;
  }
`;
const Rail = styled.div`
  flex: none;
  width: 46px;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: ${space[2]};
  padding: ${space[1]} 0;
  overflow: hidden auto;
  scrollbar-width: none;
  ${at.narrow} {
    flex-direction: row;
    width: 100%;
    overflow: auto hidden;
    gap: ${space[3]};
  }
`;
const bare = `
  border: 0;
  background: none;
  cursor: pointer;
  flex: none;
`;
const Count = styled(AriaButton)`
  ${bare}
  width: 40px;
  min-height: 34px;
  font-weight: 700;
  border-radius: ${shape.radius};
  &[data-hovered] {
    background: ${color.raised};
  }
  ${at.narrow} {
    min-height: ${shape.target};
    width: ${shape.target};
  }
`;
const PipButton = styled(AriaButton)`
  ${bare}
  display: grid;
  justify-items: center;
  gap: 1px;
  width: 44px;
  padding: 3px 0;
  font-family: ${type.mono};
  font-size: 12px;
  line-height: 1.2;
  letter-spacing: -0.04em;
  white-space: nowrap;
  border-radius: ${shape.radius};
  b {
    font-weight: 700;
  }
  &[data-hovered],
  &[data-chosen='true'] {
    background: ${color.raised};
  }
  ${at.narrow} {
    min-height: ${shape.target};
    align-content: center;
  }
`;
const More = styled(AriaButton)`
  ${bare}
  width: 40px;
  min-height: 28px;
  font-size: ${type.small};
  color: ${color.soft};
`;
const Panel = styled.div`
  width: 292px;
  display: grid;
  gap: ${space[3]};
  align-content: start;
  padding: 0 ${space[4]} ${space[4]};
  overflow: auto;
  overscroll-behavior: contain;
  background: ${color.sheet};
  border-right: ${shape.hair} solid ${color.rule};
  /* Looked at for a moment it lies over the work; kept, it stands beside it. */
  &[data-pinned='false'] {
    position: absolute;
    inset: 0 100% 0 auto;
    z-index: 7;
    border-left: ${shape.line} solid ${color.ink};
    box-shadow: -8px 0 20px rgb(0 0 0 / 0.12);
  }
  ${at.narrow} {
    width: auto;
    border: 0;
    padding-inline: 2px;
    &[data-pinned='false'] {
      position: static;
      border: 0;
      box-shadow: none;
    }
  }
`;
const Top = styled.div`
  position: sticky;
  top: 0;
  z-index: 1;
  display: flex;
  align-items: center;
  padding: ${space[1]} 0;
  background: ${color.sheet};
  border-bottom: ${shape.hair} solid ${color.rule};
  strong {
    flex: 1;
  }
`;
