import type { Build } from '../build/schema';
import { feedPlan, type FeedPlan } from '../power/feed-plan';
import { flowsOf, type Flows } from '../power/flow';
import { sectioned, wantsEcuFuse, type Circuit, type Sections } from '../power/plan';
import { carriersOf, fusesOf, sizesOf, type Fuses, type Sizes } from '../power/sizes';
import { censusOf, type Census } from '../power/census';
import { cutPieces, layRuns } from '../tree/lay';
import { allDrafts, draftsOf, type Drafts } from './drafts';
import { needsOf, type Need } from './needs';
import { returnsOf } from './return-drops';
import { carrierOf, sizedIn, type Unsized } from './wires';

/** The plan of feeds with everything that follows from it, and the wires that lie beside its own, sized with them. */
export interface PowerPlan extends Sections {
  readonly drafts: Drafts;
}

/** What a plan is made in, step by step: each may be remembered by whoever asks again and again. */
export interface PowerSteps {
  readonly plan: (build: Build, ecuFuse: boolean) => FeedPlan;
  readonly flows: (build: Build, plan: FeedPlan, ecuFuse: boolean) => Flows;
  readonly fuses: (build: Build, plan: FeedPlan, flows: Flows, ecuFuse: boolean) => Fuses;
  readonly drafts: (
    build: Build,
    needs: readonly Need[],
    plan: FeedPlan,
    flows: Flows,
    fuses: Fuses,
    ecuFuse: boolean,
  ) => Counted;
  readonly sizes: (build: Build, plan: FeedPlan, flows: Flows, fuses: Fuses, census: Census, ecuFuse: boolean) => Sizes;
}
const steps: PowerSteps = { plan: feedPlan, flows: flowsOf, fuses: fusesOf, drafts: countedOf, sizes: sizesOf };

/** Wires that are no feeds, with a size each, and how many wires of each piece are loaded. */
export interface Counted {
  readonly drafts: Drafts;
  readonly census: Census;
  /** How long each of these wires is laid, slack in. */
  readonly metres: ReadonlyMap<string, number>;
}

/**
 * All wires of a build are counted where they lie before any has a size: who carries current at the same time is asked once, for
 * feeds, outputs and returns alike.
 */
export function countedOf(build: Build, needs: readonly Need[], plan: FeedPlan, flows: Flows, fuses: Fuses): Counted {
  const drafts = draftsOf(build, needs, { plan, flows, fuses: fuses.rated });
  const all = allDrafts(drafts);
  const laid = layRuns(build.tree, all, (id) => plan.parts.get(id)?.part.box);
  const routeOf = (id: string) => laid.get(id)?.segments;
  const census = censusOf(build, [
    ...carriersOf(flows, plan.links, fuses),
    ...all.map((wire) => carrierOf(wire, routeOf(wire.id) ?? [])),
  ]);
  const sizes = sizedIn(build, census, all, routeOf);
  const sized = (wire: Unsized): Unsized => ({ ...wire, squareMm: sizes.get(wire.id)! });
  const slack = build.loom.slackMetres;
  const metres = new Map(
    all.map(({ id, metres: told }) => {
      const at = laid.get(id);
      return [id, at ? at.metres + slack * cutPieces(build.tree, id, at).length : told + slack] as const;
    }),
  );
  return {
    census,
    metres,
    drafts: {
      before: drafts.before.map(sized),
      returns: new Map([...drafts.returns].map(([id, wire]) => [id, sized(wire)])),
      after: drafts.after.map(sized),
    },
  };
}

/** Plans, currents, sizes and sections of a build. Pure; linear but for the sizes, which are raised step by step. */
export function powerPlan(
  build: Build,
  needs: readonly Need[] = needsOf(build),
  { plan, flows, fuses, drafts, sizes }: PowerSteps = steps,
): PowerPlan {
  const made = (ecuFuse: boolean) => {
    const bare = plan(build, ecuFuse);
    const through = flows(build, bare, ecuFuse);
    const rated = fuses(build, bare, through, ecuFuse);
    const counted = drafts(build, needs, bare, through, rated, ecuFuse);
    return { bare, through, counted, sized: sizes(build, bare, through, rated, counted.census, ecuFuse) };
  };
  const first = made(false);
  const { bare, through, counted, sized } = wantsEcuFuse(build, first.bare, first.sized) ? made(true) : first;
  const back = returnsOf(build, through, counted);
  return {
    ...sectioned(build, bare, through, sized, counted.census, back.drops),
    drafts: back.drafts,
  };
}

/** Sections of a build, in the order they are wired. */
export const circuitsOf = (build: Build): readonly Circuit[] => powerPlan(build).circuits;
