import { useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { answersOf, followEngine, type EngineChange } from '~/core/edits/follow';
import type { DeviceKind } from '~/core/devices/kind';
import { listWords, plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { EngineForm, MoreForm, useEngineDraft } from '../../parts/engine-form';
import { EngineSketch } from '../../parts/engine-sketch';
import { Button } from '../../ui/button';
import { Checkbox } from '../../ui/choice';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Bad, Heading, Small, Stack } from '../../ui/text';
import { at, space } from '../../ui/theme';

/** The engine asked again: what other answers bring with them is said before they are taken. */
export function EngineDialog({ kinds, onClose }: { kinds: readonly DeviceKind[]; onClose: () => void }) {
  const { build, edit } = useBuild();
  const { draft, setDraft, result } = useEngineDraft(build.engine, build.units);
  const [more, setMore] = useState(() => answersOf(build));
  const [following, setFollowing] = useState(true);
  const engine = 'engine' in result ? result.engine : null;
  const answers = useMemo(() => (engine ? { ...more, engine } : null), [engine, more]);
  const change = useMemo(
    () =>
      answers && JSON.stringify(answers) !== JSON.stringify(answersOf(build))
        ? followEngine(build, answers, kinds)
        : null,
    [answers, build, kinds],
  );
  const use = () => {
    if (!answers) return;
    const { starting, charging } = answers;
    if (following && change) edit(...change.calls);
    else edit(call('setEngine', { engine: answers.engine }), call('setPower', { starting, charging }));
    onClose();
  };
  return (
    <Dialog title="The engine" isOpen onClose={onClose} wide>
      <Two>
        <EngineForm
          draft={draft}
          onChange={setDraft}
          errors={'errors' in result ? result.errors : {}}
          units={build.units}
          more={<MoreForm answers={more} onChange={(next) => setMore({ ...more, ...next })} />}
        />
        <Stack $gap={3}>
          {engine && <EngineSketch engine={engine} school={build.outputOrder} coils={null} />}
          {change && <WhatFollows change={change} following={following} onFollow={setFollowing} />}
        </Stack>
      </Two>
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button
          weight="act"
          isDisabled={!answers || (following && change !== null && change.problem !== null)}
          onPress={use}
        >
          Use this engine
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const few = (labels: readonly string[]): string =>
  labels.length > 6 ? `${listWords(labels.slice(0, 5))} and ${labels.length - 5} more` : listWords(labels);

function WhatFollows({
  change,
  following,
  onFollow,
}: {
  change: EngineChange;
  following: boolean;
  onFollow: (following: boolean) => void;
}) {
  const falls = [
    ...(change.readings > 0 ? [plural(change.readings, 'reading')] : []),
    ...(change.checks > 0 ? [plural(change.checks, 'confirmed check')] : []),
    ...(change.offset ? ['the offset seen with the light'] : []),
  ];
  const rows = [
    ['adds', few(change.adds)],
    ['drops', few(change.drops)],
    ['works anew', few(change.moves)],
    ['falls', listWords(falls)],
  ].filter(([, words]) => words !== '');
  return (
    <Stack $gap={2} role="status" aria-label="What follows">
      <Heading>What follows</Heading>
      {change.problem && <Bad>{change.problem.sentence}</Bad>}
      {rows.length === 0 && !change.problem && <Small>No part changes, and every proof stands.</Small>}
      <Facts>
        {rows.map(([name, words]) => (
          <div key={name}>
            <dt>{name}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </Facts>
      {change.moves.length > 0 && (
        <Small>What works anew keeps its pin: allot again, or set the outputs in the ECU.</Small>
      )}
      {change.adds.length + change.drops.length > 0 && (
        <Checkbox isSelected={following} onChange={onFollow}>
          Parts follow the answers
        </Checkbox>
      )}
    </Stack>
  );
}

const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 270px;
  gap: ${space[5]};
  align-items: start;
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Facts = styled.dl`
  display: grid;
  gap: 2px;
  div {
    display: grid;
    grid-template-columns: 5.5em 1fr;
  }
  dt {
    font-weight: 700;
  }
`;
