import { z } from 'zod';
import {
  MOST_SPOOLS,
  boughtSchema,
  spoolSchema,
  storesSchema,
  type Bought,
  type Build,
  type Spool,
} from '../build/schema';
import { cuttingOf } from '../loom/shelf';
import { netlist } from '../netlist/netlist';
import { fail, ok } from '../problem';
import { edit } from './edit';

const withStores = (build: Build, changes: Partial<Build['stores']>): Build => ({
  ...build,
  stores: { ...build.stores, ...changes },
});
const nothing: Bought = { have: 0, ordered: 0, arrived: 0, price: null, supplier: '' };
/** Less is no leftover, metres. */
const LEAST_LEFTOVER = 0.1;

/** What is on the shelf, on order and at what price. */
export const storesEdits = {
  putSpool: edit(
    z.object({ spool: spoolSchema }),
    ({ spool }) => `${spool.metres} m of ${spool.colour} on the shelf`,
    (build, { spool }) => {
      const others = build.stores.spools.filter(({ id }) => id !== spool.id);
      return others.length >= MOST_SPOOLS
        ? fail('full', 'spool', `The shelf holds ${MOST_SPOOLS} spools.`)
        : ok(withStores(build, { spools: [...others, spool] }));
    },
  ),
  removeSpool: edit(
    z.object({ id: spoolSchema.shape.id }),
    ({ id }) => `Take spool ${id} from the shelf`,
    (build, { id }) =>
      build.stores.spools.some((spool) => spool.id === id)
        ? ok(withStores(build, { spools: build.stores.spools.filter((spool) => spool.id !== id) }))
        : fail('no-spool', 'id', `There is no spool ${id} on the shelf.`),
  ),
  setSpoolLength: edit(
    z.object({ metres: storesSchema.shape.spoolMetres }),
    ({ metres }) => `Spools of ${metres} m`,
    (build, { metres }) => ok(withStores(build, { spoolMetres: metres })),
  ),
  /** The shelf as it is once the whole loom is cut by the plan. */
  cutFromShelf: edit(
    z.strictObject({}),
    () => 'Cut the loom from the shelf',
    (build) => {
      const spools = new Map(build.stores.spools.map((spool) => [spool.id, spool]));
      let number = 1;
      const freshId = (): string => {
        while (spools.has(`left-${number}`)) number += 1;
        return `left-${number}`;
      };
      for (const { colour, squareMm, plan } of cuttingOf(build, netlist(build)))
        for (const { stockId, left } of plan.cuts) {
          const was = stockId === null ? undefined : spools.get(stockId);
          const now: Spool = { id: was?.id ?? freshId(), colour, squareMm, metres: Math.round(left * 100) / 100 };
          if (now.metres < LEAST_LEFTOVER) spools.delete(now.id);
          else spools.set(now.id, now);
        }
      return ok(withStores(build, { spools: [...spools.values()].slice(0, MOST_SPOOLS) }));
    },
  ),
  setBought: edit(
    z.object({ key: z.string().min(1).max(160), changes: boughtSchema.partial() }),
    ({ key }) => `Note of ${key}`,
    (build, { key, changes }) =>
      ok(
        withStores(build, {
          parts: { ...build.stores.parts, [key]: { ...(build.stores.parts[key] ?? nothing), ...changes } },
        }),
      ),
  ),
};
