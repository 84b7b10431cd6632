import { useEffect, useRef } from 'react';
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import { styled } from 'styled-components';
import type { Selection } from '~/core/netlist/run';
import type { Finding } from '~/core/rules/rule';
import { popoverLook } from '../../ui/field-look';
import { Callout, Stack, toneColor } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';
import { Code, Place, severityIcons } from './item';
import { thingKey, useMark } from './marks';

/** What is found of a thing, standing at it: a pip that opens to the call-out. Nothing where nothing is found. */
export function FindingMark({ thing }: { thing: Selection }) {
  const key = thingKey(thing);
  const { marks, findings, isOpen } = useMark(key);
  const found = findings.length > 0;
  useEffect(() => (found ? marks.show(key) : undefined), [marks, key, found]);
  const pip = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (isOpen) pip.current?.scrollIntoView({ block: 'nearest' });
  }, [isOpen]);
  if (!found) return null;
  const [worst] = findings;
  const Icon = severityIcons[worst.severity];
  return (
    <DialogTrigger isOpen={isOpen} onOpenChange={(open) => marks.open(open ? key : null)}>
      <Pip
        ref={pip}
        aria-label={findings.map(({ rule, severity, title }) => `${rule} ${severity}: ${title}`).join('; ')}
        style={{ color: toneColor(worst.severity) }}
      >
        <Icon size={15} aria-hidden />
        <span>{worst.rule}</span>
      </Pip>
      <Box placement="bottom start">
        <Dialog aria-label="What is found here" style={{ outline: 'none' }}>
          <Stack as="ul" $gap={3}>
            {findings.map((finding) => (
              <Said key={finding.id} finding={finding} />
            ))}
          </Stack>
        </Dialog>
      </Box>
    </DialogTrigger>
  );
}

function Said({ finding }: { finding: Finding }) {
  const Icon = severityIcons[finding.severity];
  return (
    <li>
      <Callout $tone={finding.severity}>
        <Code style={{ color: toneColor(finding.severity) }}>
          <Icon size={14} aria-hidden /> {finding.rule} {finding.severity}
        </Code>
        <Place finding={finding} named />
      </Callout>
    </li>
  );
}

const Pip = styled(Button)`
  display: inline-flex;
  align-items: center;
  gap: 3px;
  flex: none;
  min-height: 24px;
  min-width: 24px;
  padding: 0 ${space[1]};
  border: 0;
  border-radius: ${shape.radius};
  background: none;
  font-family: ${type.mono};
  font-size: 12px;
  font-weight: 700;
  white-space: nowrap;
  cursor: pointer;
  &[data-hovered],
  &[aria-expanded='true'] {
    background: ${color.raised};
  }
  ${at.print} {
    display: none;
  }
`;
const Box = styled(Popover)`
  ${popoverLook}
  width: min(360px, 92vw);
  padding: ${space[3]};
`;
