import { CircleAlert, Info, OctagonX } from 'lucide-react';
import { memo, useEffect, useRef, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { isBinding } from '~/core/build/binding';
import { call } from '~/core/edits';
import { timesWords, type FindingGroup } from '~/core/rules/grouped';
import type { Finding, Severity, SheetId } from '~/core/rules/rule';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Callout, Small, Stack, toneColor } from '../../ui/text';
import { color, space, type } from '../../ui/theme';
import { dayOf } from '../dates';
import { sheetInfo } from '../sheets';
import { AsideDialog } from './aside-dialog';

export const severityIcons: Record<Severity, typeof Info> = { stop: OctagonX, fix: CircleAlert, note: Info };

/** What is found, and how often where that is more than once. */
export const groupTitle = ({ title, findings }: FindingGroup): string =>
  findings.length === 1 ? title : `${title}, ${timesWords(findings.length)}`;

/** Groups are made anew with every edit; what they say seldom is. */
const saysTheSame = (one: FindingGroup, other: FindingGroup): boolean =>
  one.id === other.id &&
  one.findings.length === other.findings.length &&
  one.findings.every((finding, i) => finding === other.findings[i]);

/** Places of one group shown at once. */
const PLACES = 4;

/** Goes to the place a finding is about. */
function useGo(here: SheetId): (finding: Finding) => void {
  const { select, goTo } = useBuild();
  return ({ where, sheet }) => {
    if (where) select(where);
    if (sheet !== here) goTo(sheet);
  };
}

/** One place of what was found: where, its figures, and what can be done about it. */
export function Place({
  finding,
  go,
  named,
}: {
  finding: Finding;
  /** Goes there; without it one is there already. */
  go?: (finding: Finding) => void;
  named: boolean;
}) {
  const { edit } = useBuild();
  const [asking, setAsking] = useState(false);
  return (
    <>
      {named ? (
        <>
          {go ? <Go onPress={() => go(finding)}>{finding.title}</Go> : <strong>{finding.title}</strong>}
          <Small>{finding.detail}</Small>
        </>
      ) : (
        <Where onPress={() => go?.(finding)}>{finding.detail}</Where>
      )}
      {finding.before && (
        <Small>
          Set aside by {finding.before.by} when it read otherwise: {finding.before.reason}
        </Small>
      )}
      <Actions>
        {finding.remedy && (
          <Button weight="quiet" onPress={() => edit(...finding.remedy!.calls)}>
            {finding.remedy.label}
          </Button>
        )}
        {finding.severity !== 'note' && !isBinding(finding.rule) && (
          <Button weight="quiet" onPress={() => setAsking(true)}>
            Set aside
          </Button>
        )}
      </Actions>
      {asking && <AsideDialog finding={finding} onClose={() => setAsking(false)} />}
    </>
  );
}

/** One rule's findings of one kind. @param chosen It was asked for by its pip: it is brought into sight. */
export const GroupItem = memo(
  function GroupItem({ group, here, chosen }: { group: FindingGroup; here: SheetId; chosen: boolean }) {
    const [source, setSource] = useState(false);
    const [all, setAll] = useState(false);
    const item = useRef<HTMLLIElement>(null);
    useEffect(() => {
      if (chosen) item.current?.scrollIntoView({ block: 'nearest' });
    }, [chosen]);
    const go = useGo(here);
    const Icon = severityIcons[group.severity];
    const single = group.findings.length === 1;
    const shown = all ? group.findings : group.findings.slice(0, PLACES);
    return (
      <Item ref={item} data-chosen={chosen}>
        <Callout $tone={group.severity}>
          <Code style={{ color: toneColor(group.severity) }}>
            <Icon size={14} aria-hidden /> {group.rule} {group.severity}
          </Code>
          {single ? (
            <Place finding={group.findings[0]} go={go} named />
          ) : (
            <>
              <strong>{groupTitle(group)}</strong>
              <Stack as="ul" $gap={2}>
                {shown.map((finding) => (
                  <li key={finding.id}>
                    <Place finding={finding} go={go} named={false} />
                  </li>
                ))}
              </Stack>
              {group.findings.length > shown.length && (
                <Button weight="quiet" onPress={() => setAll(true)}>
                  Show {group.findings.length - shown.length} more
                </Button>
              )}
            </>
          )}
          {source && <Small>Source: {group.findings[0].source}.</Small>}
          <Actions>
            <Button weight="quiet" aria-expanded={source} onPress={() => setSource(!source)}>
              {source ? 'Hide source' : 'Source'}
            </Button>
          </Actions>
        </Callout>
      </Item>
    );
  },
  (one, other) => saysTheSame(one.group, other.group) && one.here === other.here && one.chosen === other.chosen,
);

/** What another sheet has to say, in one line. */
export const OtherItem = memo(
  function OtherItem({ group, onGo }: { group: FindingGroup; onGo: (group: FindingGroup) => void }) {
    const Icon = severityIcons[group.severity];
    const [first] = group.findings;
    return (
      <li>
        <Line onPress={() => onGo(group)}>
          <Icon size={14} aria-label={group.severity} style={{ color: toneColor(group.severity) }} />
          <span>
            {groupTitle(group)} <Small>· {sheetInfo(first.sheet).title}</Small>
          </span>
        </Line>
      </li>
    );
  },
  (one, other) => saysTheSame(one.group, other.group) && one.onGo === other.onGo,
);

/** A finding left as it is: still there to be read, with who and why. */
export const AsideItem = memo(function AsideItem({ finding }: { finding: Finding }) {
  const { edit } = useBuild();
  const { aside } = finding;
  if (!aside) return null;
  return (
    <li>
      <Code style={{ color: color.soft }}>
        {finding.rule} {finding.severity}, set aside
      </Code>
      <div>{finding.title}</div>
      <Small>
        {aside.by}, {dayOf(aside.at)}: {aside.reason}
      </Small>
      <Actions>
        <Button weight="quiet" onPress={() => edit(call('takeUp', { findingId: finding.id }))}>
          Take it up again
        </Button>
      </Actions>
    </li>
  );
});

const Item = styled.li`
  scroll-margin: 60px;
  &[data-chosen='true'] {
    background: ${color.selectionWash};
  }
`;
export const Code = styled.span`
  font-family: ${type.mono};
  font-size: ${type.small};
  font-weight: 700;
  display: inline-flex;
  align-items: center;
  gap: 5px;
`;
const Go = styled(AriaButton)`
  border: 0;
  background: none;
  padding: 0;
  font-weight: 700;
  text-align: left;
  cursor: pointer;
  &[data-hovered] {
    color: ${color.selection};
  }
`;
const Where = styled(Go)`
  font-weight: 400;
  font-size: ${type.small};
`;
const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 ${space[3]};
  font-size: ${type.small};
  button {
    font-size: ${type.small};
    text-align: left;
  }
  &:empty {
    display: none;
  }
`;
const Line = styled(AriaButton)`
  display: flex;
  gap: ${space[2]};
  align-items: baseline;
  border: 0;
  background: none;
  padding: 2px 0;
  text-align: left;
  cursor: pointer;
  font-size: ${type.small};
  svg {
    flex: none;
    translate: 0 2px;
  }
  &[data-hovered] {
    color: ${color.selection};
  }
`;
