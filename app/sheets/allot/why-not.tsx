import { withId } from '~/core/data/with-id';
import { useEffect, useRef } from 'react';
import { styled } from 'styled-components';
import type { Help, WayOut } from '~/core/ways/ways';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Dialog } from '../../ui/dialog';
import { Callout, Row, Small, Stack } from '../../ui/text';
import { color, shape, space } from '../../ui/theme';
import { useAllotTask } from '../../parts/use-allot';

const wayCost = ({ moved, recrimped, servesAll, gains }: WayOut): string =>
  [
    servesAll ? 'all served' : `${plural(gains, 'more need')} served`,
    moved === 0 ? 'nothing moves' : `${plural(moved, 'placement moves', 'placements move')}`,
    recrimped > 0 ? `${recrimped} of them crimped` : '',
  ]
    .filter(Boolean)
    .join(' · ');

/** Why needs are left without a pin: minimal sets that exclude one another, and the ways out, cheapest first. */
export function WhyNot({ help, onClose }: { help: Help; onClose: () => void }) {
  const { build, derived, edit } = useBuild();
  const task = useAllotTask((api, onProgress) => api.why(build, help, onProgress));
  const run = useRef(task.run);
  useEffect(() => run.current(), []);
  const { needs } = derived.net;
  const label = (id: string) => withId(needs, id)?.label ?? id;
  const { reasons, easy, easyMore } = task.answer ?? { reasons: [], easy: [], easyMore: 0 };
  return (
    <Dialog title="Why not?" isOpen onClose={onClose} wide>
      <div role="status" aria-live="polite">
        {task.busy && (
          <Row>
            <span>Trying what would help, {Math.round(task.progress * 100)} %.</span>
            <Button weight="quiet" onPress={onClose}>
              Cancel
            </Button>
          </Row>
        )}
        {task.failure && <Callout $tone="stop">The solver stopped: {task.failure}</Callout>}
        {task.answer && reasons.length === 0 && easy.length === 0 && <p>Every need has its pin.</p>}
      </div>
      {easy.length > 0 && (
        <Stack $gap={2}>
          {easy.map(({ needId, label, reason }) => (
            <Callout key={needId} $tone="pencil">
              <strong>{label}</strong>
              <span>{reason}</span>
            </Callout>
          ))}
          {easyMore > 0 && <Small>And {easyMore} more that can simply be placed.</Small>}
        </Stack>
      )}
      {reasons.map(({ conflict, ways, more }, index) => (
        <Conflict key={index} aria-label={`Conflict ${index + 1}`}>
          <Callout $tone="stop">
            <span>{conflict.sentence}</span>
            <Small>
              Leave any one of these out and the rest fits: {conflict.needs.map(label).join(', ')}.
              {conflict.more.length > 0 && ` In the same bind: ${conflict.more.map(label).join(', ')}.`}
            </Small>
          </Callout>
          <strong>Ways out, cheapest first</strong>
          {ways.length === 0 && <p>None that Gonyx knows: another ECU, or fewer needs.</p>}
          <ol>
            {ways.slice(0, 8).map((way) => (
              <Way key={`${way.code}${way.label}`}>
                <span>
                  <b>{way.label}</b>
                  <br />
                  <Small>
                    {way.detail} <em>{wayCost(way)}</em>
                  </Small>
                </span>
                <Button
                  onPress={() => {
                    edit(...way.calls);
                    onClose();
                  }}
                >
                  Do this
                </Button>
              </Way>
            ))}
          </ol>
          {ways.length > 8 && <Small>And {plural(ways.length - 8 + more, 'dearer one')}.</Small>}
          {ways.length <= 8 && more > 0 && <Small>And {more} more, the same but for the name.</Small>}
        </Conflict>
      ))}
    </Dialog>
  );
}

const Conflict = styled.section`
  display: grid;
  gap: ${space[2]};
  margin-top: ${space[3]};
`;
const Way = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: ${space[3]};
  align-items: center;
  padding: ${space[2]} 0;
  border-bottom: ${shape.hair} solid ${color.rule};
`;
