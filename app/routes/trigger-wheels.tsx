import { memo } from 'react';
import { catalog } from '~/catalog';
import { plural } from '~/core/units/format';
import { strokesOfBoard, wheelRequests } from '../sheets/trigger/wheels/requests';
import { Wheels } from '../sheets/trigger/wheels/wheels';
import { refusedProblem } from '../storage/failure';
import {
  dropOwnWheel,
  dropWheelDraft,
  keepOwnWheel,
  keepWheelDraft,
  wheelDraft,
  withOwnWheels,
} from '../storage/library';
import type { Route } from './+types/trigger-wheels';

export async function clientLoader() {
  const [all, draft] = await Promise.all([withOwnWheels({ wheels: catalog.wheels }), wheelDraft()]);
  return { ...all, draft };
}
clientLoader.hydrate = true as const;

/** The catalog does not change; the person's own wheels do, by this page's own action. */
export const shouldRevalidate = ({ formAction }: { formAction?: string }) =>
  formAction?.endsWith('/trigger/wheels') ?? false;

export async function clientAction({ request }: Route.ClientActionArgs) {
  const action = await wheelRequests.read(request);
  try {
    switch (action.intent) {
      case 'draft':
        if (strokesOfBoard.take(action.number)) await keepWheelDraft(action.draft);
        return {};
      case 'drop-draft':
        await dropWheelDraft();
        return {};
      case 'keep':
        for (const wheel of action.wheels) await keepOwnWheel(wheel);
        if (action.fromBoard) await dropWheelDraft();
        return {
          done: `${action.wheels.length === 1 ? action.wheels[0].name : plural(action.wheels.length, 'wheel')} kept in the library.`,
        };
      case 'drop':
        await dropOwnWheel(action.id);
        return { done: 'Removed from the library. Builds that use it keep their own copy.' };
    }
  } catch (error) {
    return { problem: refusedProblem(error, 'The wheels were not changed').sentence };
  }
}

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Wheels);

export default function TriggerWheelsRoute({ loaderData }: Route.ComponentProps) {
  return <Sheet wheels={loaderData.wheels} own={loaderData.own} draft={loaderData.draft} />;
}

/** The layout's own skeleton stands in until the build is read. */
export const HydrateFallback = () => null;
