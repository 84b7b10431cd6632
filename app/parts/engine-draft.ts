import { pathText } from '~/core/data/zod-problem';
import { banksFor, FLAT_DEGREES, lyingOf, numberingOf, type BankNumbering, type Lying } from '~/core/engine/banks';
import { engineSchema, LEAST_CC, MOST_BOOST_KPA, MOST_CC, type Engine } from '~/core/engine/engine';
import { defaultUnits, readQuantity, type Units } from '~/core/units/units';
import { readMeasure } from '~/core/units/workshop';
import { oddFireAngles, ordersAll, proposedOrder } from '~/core/engine/propose';

/** How an engine fires over its cycle, as it is chosen. */
export type Firing = 'even' | 'by-vee' | 'typed';

/** The form's own state: text as typed, turned into an engine only when it is whole. */
export interface EngineDraft {
  readonly name: string;
  readonly kind: Engine['kind'];
  readonly cylinders: number | null;
  readonly lying: Lying;
  /** Null: the maker's own, as typed in `banks`. */
  readonly numbering: BankNumbering | null;
  readonly banks: string;
  readonly bankDegrees: number | null;
  readonly firingOrder: string;
  readonly firing: Firing;
  readonly firingAngles: string;
  readonly aspiration: Engine['aspiration'];
  readonly boostKpa: number | null;
  readonly maxRpm: number | null;
  readonly displacementCc: number | null;
  readonly ignition: Engine['ignition'];
  readonly injection: Engine['injection'];
  readonly plugs: Engine['plugs'];
  readonly trailingDegrees: number | null;
  readonly injectors: Engine['injectors'];
}

export const banksText = (banks: readonly (readonly number[])[]): string =>
  banks.map((bank) => bank.join('-')).join(' / ');
const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

export function draftOf(engine: Engine): EngineDraft {
  const byVee = oddFireAngles(engine.cylinders, engine.bankDegrees);
  const lying = lyingOf(engine);
  return {
    ...engine,
    lying,
    numbering: lying === 'inline' ? 'odd-even' : numberingOf(engine),
    banks: banksText(engine.banks),
    bankDegrees: lying === 'vee' ? engine.bankDegrees : null,
    firingOrder: engine.firingOrder.join('-'),
    firing: engine.firingAngles === null ? 'even' : same(engine.firingAngles, byVee) ? 'by-vee' : 'typed',
    firingAngles: engine.firingAngles?.join(', ') ?? '',
  };
}

const numbersIn = (text: string): number[] =>
  text
    .split(/[^0-9.]+/)
    .filter(Boolean)
    .map(Number);

type Laid = Pick<EngineDraft, 'kind' | 'cylinders' | 'lying' | 'numbering'>;
const proposalFor = ({ kind, cylinders, lying, numbering }: Laid): string | null =>
  cylinders === null || cylinders < 1 || cylinders > 16
    ? null
    : proposedOrder({
        kind,
        cylinders,
        lying: kind === 'rotary' ? 'inline' : lying,
        numbering: numbering ?? 'odd-even',
      }).join('-');

/** Another lay-out takes a firing order of its own, and even angles, until the person gives theirs. */
export function laidAnew(draft: EngineDraft, part: Partial<EngineDraft>): EngineDraft {
  const next = { ...draft, ...part };
  const [before, after] = [proposalFor(draft), proposalFor(next)];
  const own = draft.firingOrder !== before && ordersAll(numbersIn(draft.firingOrder), next.cylinders ?? 0);
  const firing = next.firing === 'by-vee' && next.lying !== 'vee' ? 'even' : next.firing;
  if (own || after === null) return { ...next, firing };
  return next.cylinders === draft.cylinders
    ? { ...next, firing, firingOrder: after }
    : { ...next, firing: firing === 'typed' ? 'even' : firing, firingOrder: after, firingAngles: '' };
}

/** Angle of a V that is not told (common practice). */
export const USUAL_VEE = 90;

export function banksOfDraft({ kind, lying, numbering, banks, cylinders }: EngineDraft): number[][] {
  if (kind === 'rotary' || lying === 'inline') return [];
  return numbering === null ? banks.split(/[/|;]/).map(numbersIn) : banksFor(cylinders ?? 0, numbering);
}
export const veeOf = ({ kind, lying, bankDegrees }: EngineDraft): number =>
  kind === 'rotary' || lying === 'inline' ? 0 : lying === 'flat' ? FLAT_DEGREES : (bankDegrees ?? USUAL_VEE);

export function anglesOf(draft: EngineDraft): number[] | null {
  if (draft.firing === 'even') return null;
  if (draft.firing === 'by-vee') return oddFireAngles(draft.cylinders ?? 0, veeOf(draft));
  const angles = numbersIn(draft.firingAngles);
  return angles.length > 0 ? angles : null;
}

/** The engine a draft describes, or what is wrong by field. */
export function engineOf(
  draft: EngineDraft,
  units: Units = defaultUnits,
): { engine: Engine } | { errors: Record<string, string> } {
  const parsed = engineSchema.safeParse({
    ...draft,
    firingOrder: numbersIn(draft.firingOrder),
    firingAngles: anglesOf(draft),
    banks: banksOfDraft(draft),
    bankDegrees: veeOf(draft),
    boostKpa: draft.aspiration === 'boosted' ? draft.boostKpa : 0,
    trailingDegrees: draft.plugs === 2 ? draft.trailingDegrees : 0,
  });
  const boostless = draft.aspiration === 'boosted' && !(draft.boostKpa !== null && draft.boostKpa > 0);
  if (parsed.success && !boostless) return { engine: parsed.data };
  const reader = { units, fuel: { fuel: 'petrol' } } as const;
  const ranges: Record<string, string> = {
    cylinders: 'from 1 to 16',
    boostKpa: `from 0 to ${readQuantity('pressure', MOST_BOOST_KPA, reader)}`,
    maxRpm: 'from 500 to 20000 rpm',
    trailingDegrees: 'from 0 to 40°',
    displacementCc: `from ${readMeasure('displacement', LEAST_CC, reader)} to ${readMeasure('displacement', MOST_CC, reader)}`,
    name: 'a name of 1 to 80 characters',
    firingOrder: `each cylinder once, from 1 to ${draft.cylinders ?? '?'}, such as 1-3-4-2`,
    banks: `each cylinder once, front first, such as ${banksText(banksFor(draft.cylinders ?? 6, 'odd-even'))}`,
    bankDegrees: 'from 1 to 179°',
    firingAngles: 'one angle for each cylinder, 0 to 719°, or nothing',
  };
  const errors: Record<string, string> = {};
  if (boostless) errors.boostKpa = 'Give the boost you want above the barometer: the manifold sensor is judged by it.';
  for (const issue of parsed.error?.issues ?? []) {
    const field = pathText(issue.path.slice(0, 1));
    errors[field] ??= ranges[field] ? `Give ${ranges[field]}.` : issue.message;
  }
  return { errors };
}
