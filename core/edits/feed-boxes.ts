import { z } from 'zod';
import { boxSchema, partName, type Feeds } from '../topology/parts';
import { fail, ok } from '../problem';
import { edit } from './edit';
import { withFeeds } from './feed-wires';

/** Boxes of fuses and relays; what stands in them is said of the parts. */
export const feedBoxEdits = {
  addFeedBox: edit(
    z.object({ box: boxSchema, name: partName.optional() }),
    ({ box }) => `Add ${box.name}`,
    (build, { box, name: wanted }) => {
      let own = wanted ?? 'box';
      for (let number = 2; build.feeds.boxes[own] !== undefined; number += 1) own = `${wanted ?? 'box'}-${number}`;
      return ok(withFeeds(build, { boxes: { ...build.feeds.boxes, [own]: box } }));
    },
  ),
  setFeedBox: edit(
    z.object({ name: partName, changes: boxSchema.partial() }),
    ({ name: id }, build) => `Change ${build.feeds.boxes[id]?.name ?? id}`,
    (build, { name: id, changes }) => {
      const box = build.feeds.boxes[id];
      if (!box) return fail('no-box', 'name', `There is no box ${id} in this build.`);
      return ok(withFeeds(build, { boxes: { ...build.feeds.boxes, [id]: { ...box, ...changes } } }));
    },
  ),
  removeFeedBox: edit(
    z.object({ name: partName }),
    ({ name: id }, build) => `Take ${build.feeds.boxes[id]?.name ?? id} away`,
    (build, { name: id }) => {
      if (!build.feeds.boxes[id]) return fail('no-box', 'name', `There is no box ${id} in this build.`);
      const boxes = Object.fromEntries(Object.entries(build.feeds.boxes).filter(([one]) => one !== id));
      const without = <T extends { box?: string | null }>(records: Readonly<Record<string, T | null>>) =>
        Object.fromEntries(
          Object.entries(records).map(([one, value]) => [
            one,
            value?.box === id ? { ...value, box: undefined } : value,
          ]),
        );
      const parts = without(build.feeds.parts) as Feeds['parts'];
      const changes = without(build.feeds.changes) as Feeds['changes'];
      return ok(withFeeds(build, { boxes, parts, changes }));
    },
  ),
};
