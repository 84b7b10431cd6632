import { isIgnition, type AbilityKind, type EcuDefinition } from '~/core/ecu/ecu';
import { useEffect, useRef, useState } from 'react';
import { redirect, useActionData, useNavigation, useSubmit, Link } from 'react-router';
import { styled } from 'styled-components';
import { Radio, RadioGroup } from 'react-aria-components';
import { catalog } from '~/catalog';
import { answersSchema, coilCount, startBuild, starterParts, type Answers } from '~/core/edits/starter';
import { zodProblem } from '~/core/data/zod-problem';
import type { DeviceKind } from '~/core/devices/kind';
import { kindWord } from '~/core/ecu/ask';
import { asksPhase, type Engine } from '~/core/engine/engine';
import type { EcuFit } from '~/core/ways/compare';
import { inSentence, plural } from '~/core/units/format';
import { EngineSketch } from '../parts/engine-sketch';
import { useAllotTask } from '../parts/use-allot';
import { draftOf, engineOf, type EngineDraft } from '../parts/engine-draft';
import { EngineForm, MoreForm, type MoreAnswers } from '../parts/engine-form';
import { keepBuild, newId } from '../storage/garage';
import { ownEcus } from '../storage/library';
import { lastUnits, rememberUnits, useLastUnits } from '../storage/units';
import { PlainPage, PlainSheet } from '../parts/plain-page';
import { Button } from '../ui/button';
import { Checkbox, Segmented } from '../ui/choice';
import { Select } from '../ui/select';
import { TextField } from '../ui/text-field';
import { Bad, FieldGrid, Heading, Row, Small, Soft, Stack } from '../ui/text';
import { at, color, shape, space, type } from '../ui/theme';
import type { Route } from './+types/new';

/** ECUs of the person's own library stand before the catalog's. */
export async function clientLoader() {
  const { ecus, engines, kinds } = catalog;
  return { engines, kinds, ecus: [...(await ownEcus()), ...ecus] };
}
clientLoader.hydrate = true as const;

export async function clientAction({ request }: Route.ClientActionArgs) {
  const draft = answersSchema.safeParse(await request.json());
  if (!draft.success) return zodProblem(draft.error);
  const build = startBuild({ ...draft.data, id: newId(), now: new Date().toISOString(), units: lastUnits() });
  if (!build.ok) return build.problem;
  const kept = await keepBuild(build.value);
  return kept.ok ? redirect(`/build/${kept.value}/survey`) : kept.problem;
}

export const HydrateFallback = () => (
  <PlainPage aria-busy="true">
    <PlainSheet>
      <Title>New build</Title>
    </PlainSheet>
  </PlainPage>
);

export default function NewBuild({ loaderData }: Route.ComponentProps) {
  const { ecus, engines, kinds } = loaderData;
  const [name, setName] = useState('');
  const [vehicle, setVehicle] = useState('');
  const [preset, setPreset] = useState(engines[0].name);
  const [draft, setDraft] = useState<EngineDraft>(() => draftOf(engines[0]));
  const [ecuId, setEcuId] = useState(ecus[1].id);
  const [withUsual, setWithUsual] = useState(true);
  const [tried, setTried] = useState(false);
  const submit = useSubmit();
  const navigation = useNavigation();
  const problem = useActionData<typeof clientAction>();
  const units = useLastUnits();
  const result = engineOf(draft, units);
  const errors = tried && 'errors' in result ? result.errors : {};
  const ecu = ecus.find((one) => one.id === ecuId)!;
  const engine = 'engine' in result ? result.engine : null;
  const [shown, setShown] = useState(engine);
  // While a field is half typed, the last whole engine stays on show.
  if (engine && JSON.stringify(engine) !== JSON.stringify(shown)) setShown(engine);
  // Until it is answered, the phase is told where spark or injection asks for it.
  const [asked, setAsked] = useState<MoreAnswers | null>(null);
  const more: MoreAnswers = asked ?? {
    phase: shown !== null && asksPhase(shown),
    starting: 'key',
    charging: 'alternator',
  };
  const { fits, ...task } = useFits(withUsual ? shown : null, more, ecus, kinds);
  const usual = 'engine' in result ? starterParts(result.engine, ecu, kinds, more) : [];
  const create = () => {
    setTried(true);
    if (!('engine' in result) || name.trim() === '') return;
    const answers: Answers = { name, vehicle, engine: result.engine, ecu, kinds, withUsual, ...more };
    void submit(JSON.stringify(answers), { method: 'post', encType: 'application/json' });
  };
  return (
    <PlainPage>
      <title>New build · Gonyx</title>
      <PlainSheet $width={980}>
        <Row>
          <Title>New build</Title>
          <Soft>
            <Link to="/">Garage</Link>
          </Soft>
        </Row>
        <Stack $gap={3}>
          <Heading>What is it?</Heading>
          <FieldGrid $min={260}>
            <TextField
              label="Name of the build"
              value={name}
              onChange={setName}
              autoFocus
              placeholder="Shed project, inline four"
              error={tried && name.trim() === '' ? 'Give it a name of 1 to 80 characters.' : undefined}
              maxLength={80}
            />
            <TextField label="Vehicle or machine" value={vehicle} onChange={setVehicle} maxLength={120} />
            <Segmented
              label="Workshop in"
              choices={[
                { id: 'metric', name: 'metric' },
                { id: 'inch', name: 'feet, AWG, hp' },
              ]}
              value={units.workshop}
              onChange={(workshop) => rememberUnits({ ...units, workshop })}
            />
          </FieldGrid>
        </Stack>
        <Stack $gap={3}>
          <Heading>Engine</Heading>
          <Beside>
            <Stack $gap={3}>
              <FieldGrid $min={260}>
                <Select
                  label="Start from"
                  choices={engines.map((engine) => ({
                    id: engine.name,
                    name: engine.name,
                    note: `fires ${engine.firingOrder.join('-')}`,
                  }))}
                  value={preset}
                  onChange={(id) => {
                    setPreset(id);
                    const engine = engines.find((one) => one.name === id);
                    if (engine) setDraft(draftOf(engine));
                  }}
                />
              </FieldGrid>
              <EngineForm
                draft={draft}
                onChange={setDraft}
                errors={errors}
                units={units}
                more={<MoreForm answers={more} onChange={setAsked} />}
              />
            </Stack>
            {shown && (
              <EngineSketch
                engine={shown}
                school={ecu.outputOrder}
                coils={withUsual ? coilCount(starterParts(shown, ecu, kinds)) : null}
              />
            )}
          </Beside>
        </Stack>
        <Stack $gap={3}>
          <Heading>ECU</Heading>
          <Checkbox isSelected={withUsual} onChange={setWithUsual}>
            Put the usual parts on the list
          </Checkbox>
          <Ecus aria-label="ECU" value={ecuId} onChange={setEcuId}>
            {ecus.map((one) => (
              <EcuChoice key={one.id} value={one.id}>
                <strong>{one.model}</strong>
                <span>
                  {one.pins.length} cavities,{' '}
                  {one.outputOrder === 'in-turn' ? 'outputs fire in turn' : 'outputs numbered by cylinder'}
                </span>
                <Small>
                  {one.pins.filter((pin) => pin.abilities[0].kind === 'injector').length} injection,{' '}
                  {one.pins.filter((pin) => isIgnition(pin.abilities[0].kind)).length} ignition,{' '}
                  {one.pins.some((pin) => pin.abilities[0].kind === 'vr')
                    ? 'VR and square-wave triggers'
                    : 'square-wave triggers only'}
                  {one.pins.some((pin) => pin.abilities[0].kind === 'half-bridge') ? ', half-bridges' : ''}
                </Small>
                {withUsual && (
                  <Fit fit={fits?.find((fit) => fit.ecuId === one.id)} busy={task.busy} fresh={task.fresh} />
                )}
              </EcuChoice>
            ))}
          </Ecus>
          {withUsual && usual.length > 0 && (
            <Small>
              {usual
                .map(({ kind, count }) =>
                  count !== null && count > 1 ? `${count} × ${inSentence(kind.name)}` : inSentence(kind.name),
                )
                .join('; ')}
              . Change or remove any of them on sheet 1.
            </Small>
          )}
        </Stack>
        {problem && <Bad role="alert">{problem.sentence}</Bad>}
        {tried && 'errors' in result && (
          <Bad role="alert">The engine is not whole yet: see the fields marked above.</Bad>
        )}
        <Foot>
          <Button weight="act" onPress={create} isDisabled={navigation.state !== 'idle'}>
            Make the build
          </Button>
        </Foot>
      </PlainSheet>
    </PlainPage>
  );
}

/** What is asked on each ECU, worked out by the solver beside the page once the answers rest for a moment. */
function useFits(
  engine: Engine | null,
  more: MoreAnswers,
  ecus: readonly EcuDefinition[],
  kinds: readonly DeviceKind[],
) {
  const task = useAllotTask((api, onProgress) =>
    api.start({ vehicle: '', engine: engine!, kinds: [...kinds], withUsual: true, ...more }, ecus, onProgress),
  );
  const now = useRef(task);
  const { phase, starting, charging } = more;
  useEffect(() => {
    now.current = task;
  });
  useEffect(() => {
    now.current.cancel();
    if (!engine) return;
    const timer = setTimeout(() => now.current.run(), REST_MILLISECONDS);
    return () => clearTimeout(timer);
  }, [engine, phase, starting, charging, ecus, kinds]);
  // Until the new answer is there the last one stays in its place, in italics: what stands below does not jump up and down.
  const [last, setLast] = useState<readonly EcuFit[] | null>(null);
  if (task.answer && task.answer !== last) setLast(task.answer);
  return { fits: engine ? (task.answer ?? last) : null, fresh: task.answer !== null, busy: task.busy };
}
const REST_MILLISECONDS = 300;

/** Whether the usual parts of this engine find their pins, and what is left over. */
function Fit({ fit, busy, fresh }: { fit: EcuFit | undefined; busy: boolean; fresh: boolean }) {
  // Room for the answer is kept: what stands below must not move away under a press.
  if (!fit) return busy ? <Small style={{ minHeight: '8em' }}>Trying it…</Small> : null;
  const spares = Object.entries(fit.spares).map(([kind, count]) => plural(count!, kindWord(kind as AbilityKind)));
  const look = fresh ? { 'data-testid': 'fit' } : { style: { fontStyle: 'italic' }, 'aria-busy': true };
  return fit.fits ? (
    <Small {...look}>
      <strong style={{ color: color.proved }}>✓ All {fit.needs} needs have a pin.</strong>{' '}
      {spares.length > 0 ? `Left: ${spares.join(', ')}.` : 'Nothing is left.'}
    </Small>
  ) : (
    <Small {...look}>
      <strong style={{ color: color.stop }}>
        ✗ {fit.needs - fit.served} of {fit.needs} needs without a pin.
      </strong>{' '}
      {fit.reasons[0]}
    </Small>
  );
}

/** The engine as drawn stands beside its answers. */
const Beside = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 250px;
  gap: ${space[5]};
  align-items: start;
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr) 210px;
  }
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
/** Stays where it is, whatever the answers of the solver do to what stands above it: nothing moves under a press. */
const Foot = styled(Row)`
  position: sticky;
  bottom: 0;
  padding-block: ${space[3]};
  background: ${color.sheet};
  border-top: ${shape.line} solid ${color.rule};
`;
const Title = styled.h1`
  font-size: ${type.title};
`;
const Ecus = styled(RadioGroup)`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 250px), 1fr));
  gap: ${space[3]};
`;
const EcuChoice = styled(Radio)`
  display: grid;
  gap: 2px;
  padding: ${space[3]};
  border: ${shape.line} solid ${color.rule};
  border-radius: ${shape.radius};
  cursor: pointer;
  align-content: start;
  &[data-selected] {
    border-color: ${color.selection};
    box-shadow: 0 0 0 1.5px ${color.selection};
  }
`;
