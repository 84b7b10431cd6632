import { CircleAlert, Info, OctagonX } from 'lucide-react';
import { memo, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { isBinding } from '~/core/build/binding';
import type { Finding, Severity, SheetId } from '~/core/rules/rule';
import { useBuild, useLater } from '../build/context';
import { Button } from '../ui/button';
import { Callout, Heading, Small, Stack, toneColor } from '../ui/text';
import { color, space, type } from '../ui/theme';
import { AsideDialog } from './aside-dialog';
import { dayOf } from './dates';
import { sheetInfo } from './sheets';

const icons: Record<Severity, typeof Info> = { stop: OctagonX, fix: CircleAlert, note: Info };

const FindingItem = memo(function FindingItem({ finding, here }: { finding: Finding; here: SheetId }) {
  const { edit, select, goTo } = useBuild();
  const [open, setOpen] = useState(false);
  const [asking, setAsking] = useState(false);
  const Icon = icons[finding.severity];
  const go = () => {
    if (finding.where) select(finding.where);
    if (finding.sheet !== here) goTo(finding.sheet);
  };
  return (
    <li>
      <Callout $tone={finding.severity}>
        <Code style={{ color: toneColor(finding.severity) }}>
          <Icon size={14} aria-hidden /> {finding.rule} {finding.severity}
        </Code>
        <Go onPress={go}>{finding.title}</Go>
        <Small>{finding.detail}</Small>
        {finding.before && (
          <Small>
            Set aside by {finding.before.by} when it read otherwise: {finding.before.reason}
          </Small>
        )}
        {open && <Small>Source: {finding.source}.</Small>}
        <Actions>
          {finding.remedy && (
            <Button weight="quiet" onPress={() => edit(...finding.remedy!.calls)}>
              {finding.remedy.label}
            </Button>
          )}
          <Button weight="quiet" aria-expanded={open} onPress={() => setOpen(!open)}>
            {open ? 'Hide source' : 'Source'}
          </Button>
          {finding.severity !== 'note' && !isBinding(finding.rule) && (
            <Button weight="quiet" onPress={() => setAsking(true)}>
              Set aside
            </Button>
          )}
        </Actions>
        {asking && <AsideDialog finding={finding} onClose={() => setAsking(false)} />}
      </Callout>
    </li>
  );
});

/** Live checks: this sheet's first, then the others'. */
export const FindingsMargin = memo(function FindingsMargin({ sheet }: { sheet: SheetId }) {
  const { findings } = useLater();
  const standing = findings.filter((finding) => finding.aside === null);
  const mine = standing.filter((finding) => finding.sheet === sheet);
  const others = standing.filter((finding) => finding.sheet !== sheet);
  const aside = findings.filter((finding) => finding.aside !== null);
  return (
    <Aside aria-label="Findings">
      <Heading>Findings {standing.length}</Heading>
      {mine.length === 0 && <Small>Nothing to say about this sheet.</Small>}
      <List>
        {mine.map((finding) => (
          <FindingItem key={finding.id} finding={finding} here={sheet} />
        ))}
      </List>
      {others.length > 0 && (
        <>
          <Heading>On other sheets</Heading>
          <Stack as="ul" $gap={1}>
            {others.map((finding) => (
              <OtherItem key={finding.id} finding={finding} />
            ))}
          </Stack>
        </>
      )}
      {aside.length > 0 && (
        <>
          <Heading>Set aside {aside.length}</Heading>
          <Stack as="ul" $gap={3}>
            {aside.map((finding) => (
              <AsideItem key={finding.id} finding={finding} />
            ))}
          </Stack>
        </>
      )}
    </Aside>
  );
});

/** A finding left as it is: still there to be read, with who and why. */
const AsideItem = memo(function AsideItem({ finding }: { finding: Finding }) {
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

const OtherItem = memo(function OtherItem({ finding }: { finding: Finding }) {
  const { select, goTo } = useBuild();
  const Icon = icons[finding.severity];
  return (
    <li>
      <Line
        onPress={() => {
          if (finding.where) select(finding.where);
          goTo(finding.sheet);
        }}
      >
        <Icon size={14} aria-label={finding.severity} style={{ color: toneColor(finding.severity) }} />
        <span>
          {finding.title} <Small>· {sheetInfo(finding.sheet).title}</Small>
        </span>
      </Line>
    </li>
  );
});

const Aside = styled.aside`
  display: grid;
  gap: ${space[3]};
  align-content: start;
`;
const List = styled(Stack).attrs({ as: 'ul', $gap: 4 })``;
const Code = styled.span`
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
const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 ${space[3]};
  font-size: ${type.small};
  button {
    font-size: ${type.small};
    text-align: left;
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
